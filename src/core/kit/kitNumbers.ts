import { CELL_READINGS } from '../readings/cellReadings.ts';
import type { ReadingDefinition } from '../readings/definition.ts';
import { EDGE_READINGS, NODE_READINGS } from '../readings/lineReadings.ts';
import { BAY_READINGS } from './bayReadings.ts';
import type { Named } from './formula/compile.ts';
import { dimensionOf } from './formula/dimension.ts';
import { BESIDE_READINGS, PATH_READINGS, ROOM_READINGS } from './hostReadings.ts';
import type { HostKind } from './hosts.ts';

const READINGS_OF: Readonly<Record<HostKind, Readonly<Record<string, ReadingDefinition>>>> = {
	cell: CELL_READINGS,
	box: CELL_READINGS,
	edge: { ...EDGE_READINGS, ...ROOM_READINGS, ...BESIDE_READINGS },
	node: NODE_READINGS,
	path: PATH_READINGS,
	bay: BAY_READINGS
};

/** What formulas can name of a host. */
export const readingsOf = (kind: HostKind) => READINGS_OF[kind];

/** The numbers of a program: its columns, called slots, and what formulas name them by. */
export class KitNumbers {
	readonly constants: [number, number][] = [];
	/** Slots of readings that formulas have asked for, and of parameters and values that are told. */
	readonly readings = new Map<string, number>();
	readonly parameters = new Map<string, number>();
	readonly values = new Map<string, number>();
	/** Slots of the program around this one that are used in it, each with its slot here. */
	readonly captured: (readonly [number, number])[] = [];
	private slots = 0;
	private readonly uniform = new Set<number>();
	private readonly named = new Map<string, Named>();
	private readonly kind: HostKind;
	/** Those of the program around this one, which can be named too. */
	private readonly outer: KitNumbers | undefined;

	constructor(kind: HostKind, outer: KitNumbers | undefined) {
		this.kind = kind;
		this.outer = outer;
	}

	/** How many slots there are. */
	get count(): number {
		return this.slots;
	}

	/** A new slot; `uniform` where it has the same value on all hosts of a run. */
	take(uniform = false): number {
		if (uniform) this.uniform.add(this.slots);
		return this.slots++;
	}

	constant(value: number): number {
		const slot = this.take(true);
		this.constants.push([slot, value]);
		return slot;
	}

	isUniform(slot: number): boolean {
		return this.uniform.has(slot);
	}

	/** Makes a slot known to formulas. */
	name(name: string, slot: number, more: Pick<Named, 'dimension' | 'choices'>): void {
		this.named.set(name, { slot, uniform: this.isUniform(slot), ...more });
	}

	/** All that formulas can name, for messages. */
	names(): string[] {
		return [...this.named.keys(), ...(this.outer?.names() ?? []), ...Object.keys(readingsOf(this.kind))];
	}

	/** What a name stands for. */
	find(name: string): Named | undefined {
		return this.findInKit(name) ?? this.findReading(name);
	}

	/** A number that the kit itself has, here or around. */
	private findInKit(name: string): Named | undefined {
		const known = this.named.get(name);
		if (known) return known;
		const outer = this.outer?.findInKit(name);
		return outer && this.capture(name, outer);
	}

	/** A reading of the host; of the one around it where pieces do not have it. */
	private findReading(name: string): Named | undefined {
		const definitions = readingsOf(this.kind);
		const definition = Object.hasOwn(definitions, name) ? definitions[name] : undefined;
		if (definition) {
			const slot = this.readings.get(name) ?? this.take();
			this.readings.set(name, slot);
			return { slot, dimension: dimensionOf(definition.quantity), uniform: false };
		}
		const outer = this.outer?.findReading(name);
		return outer && this.capture(name, outer);
	}

	/** A number of the program around this one. */
	private capture(name: string, outer: Named): Named {
		const named = { ...outer, slot: this.take(outer.uniform) };
		this.captured.push([outer.slot, named.slot]);
		this.named.set(name, named);
		return named;
	}
}
