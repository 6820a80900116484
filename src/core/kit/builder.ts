import { ZygasterError, messageOf } from '../errors.ts';
import { SAME_RATIO } from '../tolerances.ts';
import { group } from '../units/print.ts';
import type { Quantity } from '../units/quantity.ts';
import { BLOCK, compileFormula, type Named, type Scope, type Term } from './formula/compile.ts';
import { dimensionOf, PLAIN } from './formula/dimension.ts';
import type { Value } from './fields.ts';
import type { HostShape } from './hosts.ts';
import { KitNumbers } from './kitNumbers.ts';
import type { BuilderWorld, Mould } from './builderWorld.ts';
import { markFailed } from './sound.ts';
import { stepList } from './stepsFor.ts';
import {
	ALWAYS,
	type Block,
	type Body,
	type ChildPlan,
	type Fault,
	type KitProgram,
	type Line,
	type Op,
	type PartPlan
} from './program.ts';
import type { Kit, KitParameter, Step } from './schema.ts';
import { measureOf } from './measures.ts';

/** A program within this one, for pieces of its hosts. */
interface Inner {
	readonly step: Step;
	readonly builder: Builder;
	readonly ready: (program: KitProgram, captured: readonly (readonly [number, number])[]) => void;
}

/** Points of one host at most: they are numbered in 16 bits. */
const MOST_POINTS = 65_535;

/** Puts a program together, step by step: allots points, values, masks and faults. */
export class Builder {
	readonly kit: Kit;
	readonly shape: HostShape;
	readonly world: BuilderWorld;
	readonly lines = new Map<string, Line>();
	readonly bodies = new Map<string, Body>();
	readonly moulds = new Map<string, Mould>();
	/** Measures that formulas have asked for. */
	readonly measured = new Map<string, Named>();
	/** By crossing: how far its two lines miss each other, mm. */
	readonly crossings = new Map<string, (block: Block, h: number) => number>();
	readonly parts: PartPlan[] = [];
	readonly ops: Op[] = [];
	readonly children: ChildPlan[] = [];
	readonly faults: Fault[] = [];
	/** Steps of the whole kit, by name, so that messages can tell what a wrong name is. */
	readonly allSteps: ReadonlyMap<string, Step>;
	needsSolids = false;
	/** The step that is being compiled, and the mask that holds for it. */
	step: Step | undefined;
	mask = ALWAYS;

	private points = 0;
	private masks = 0;
	private readonly numbers: KitNumbers;
	private readonly inside: Inner[] = [];
	private readonly checks: (() => void)[] = [];

	constructor(kit: Kit, shape: HostShape, world: BuilderWorld, outer?: Builder) {
		this.kit = kit;
		this.shape = shape;
		this.world = world;
		this.numbers = new KitNumbers(shape.kind, outer?.numbers);
		this.allSteps = outer?.allSteps ?? new Map(stepList(kit, shape.corners).map((s) => [s.name, s]));
	}

	/** A line or point of an earlier step. */
	line(name: string, least = 1): Line {
		const line = this.lines.get(name);
		if (!line) throw this.fail(this.unknown(name, 'line or point', [...this.lines.keys()]));
		if (line.count < least) throw this.fail(`“${name}” is a single point; wanted is a line`);
		return line;
	}

	point(name: string): Line {
		const line = this.line(name);
		if (line.count > 1) throw this.fail(`“${name}” is a line; wanted is a point`);
		return line;
	}

	body(name: string): Body {
		const body = this.bodies.get(name);
		if (!body) throw this.fail(this.unknown(name, 'body', [...this.bodies.keys()]));
		return body;
	}

	/** Takes room for a line of the present step. */
	take(count: number, closed = false, more: Partial<Line> = {}): Line {
		const line = { first: this.points, count, closed, mask: this.mask, ...more };
		this.points += count;
		return line;
	}

	/** Takes room for the line that the present step makes. */
	make(
		count: number,
		closed = false,
		{
			holes,
			bent,
			corner,
			curves,
			free,
			spokes
		}: Pick<Line, 'holes' | 'bent' | 'corner' | 'curves' | 'free' | 'spokes'> = {}
	): Line {
		const line = this.take(count, closed, {
			...(holes?.length ? { holes } : {}),
			...(bent ? { bent } : {}),
			...(curves?.length ? { curves } : {}),
			...(free ? { free } : {}),
			...(spokes ? { spokes } : {}),
			...(corner === undefined ? {} : { corner })
		});
		this.lines.set(this.step!.name, line);
		return line;
	}

	op(op: Op): void {
		this.ops.push(op);
	}

	/** Code of a fault of the present step, to be written into `failed`. */
	fault(reason: string): number {
		this.faults.push({ step: this.step?.name ?? this.kit.name, reason });
		return this.faults.length;
	}

	/** Slot of a value of the present step: a number, a parameter, or a formula. */
	slot(value: Value, quantity: Quantity | 'yesno', field: string): number {
		if (typeof value === 'number') return this.numbers.constant(value);
		const term = this.term(value, quantity, field);
		const slot = this.numbers.take(term.uniform);
		const code = this.fault(
			`${field} is no number here: “${value}” divides by zero or asks for something that the host does not have`
		);
		const mask = this.mask;
		this.op((block) => {
			const column = (block.columns[slot] = term.run(block.columns, block.count));
			for (let h = 0; h < block.count; h++) if (!Number.isFinite(column[h]!)) markFailed(block, h, mask, code);
		});
		return slot;
	}

	/** Whether a slot has the same value on all hosts of a run. */
	isUniform(slot: number): boolean {
		return this.numbers.isUniform(slot);
	}

	private term(text: string, quantity: Quantity | 'yesno', field: string): Term {
		try {
			return compileFormula(text, quantity, this.scope);
		} catch (cause) {
			throw this.fail(`${field}: ${messageOf(cause)}`);
		}
	}

	/** Turns to a step: it is there where its condition holds and everything that it takes is. */
	begin(step: Step): void {
		this.step = step;
		const masks = this.world
			.takes(step)
			.map((name) => (this.lines.get(name) ?? this.bodies.get(name) ?? this.moulds.get(name))?.mask ?? ALWAYS);
		this.mask = this.both([...new Set(masks.filter((m) => m !== ALWAYS))]);
		if (step.when === undefined) return;
		const inputs = this.mask === ALWAYS ? [] : [this.mask];
		this.mask = this.both(inputs, this.slot(step.when, 'yesno', 'Condition'));
	}

	/** A mask that holds where all of these and a condition do. */
	private both(masks: readonly number[], condition?: number): number {
		if (condition === undefined && masks.length <= 1) return masks[0] ?? ALWAYS;
		const mask = this.masks++;
		this.op((block) => {
			const out = block.masks[mask]!;
			const holds = condition === undefined ? undefined : block.columns[condition]!;
			for (let h = 0; h < block.count; h++) {
				let there = holds === undefined || holds[h] !== 0 ? 1 : 0;
				for (const other of masks) there &= block.masks[other]![h]!;
				out[h] = there;
			}
		});
		return mask;
	}

	/** A new column that a step fills by itself, under a name that formulas can use. */
	ownSlot(name?: string, quantity: Quantity = 'count'): number {
		const slot = this.numbers.take();
		if (name) this.numbers.name(name, slot, { dimension: dimensionOf(quantity) });
		return slot;
	}

	/** A number that formulas can name. */
	nameValue(name: string, slot: number, quantity: Quantity): void {
		this.numbers.name(name, slot, { dimension: dimensionOf(quantity) });
		this.numbers.values.set(name, slot);
	}

	/** Makes a parameter known: filled in by whoever runs the program, or by its formula. */
	addParameter(parameter: KitParameter, given: boolean, varying: boolean): void {
		const { name, quantity } = parameter;
		if (quantity === 'text' || quantity === 'material') return;
		const dimension = quantity === 'yesno' || quantity === 'choice' ? PLAIN : dimensionOf(quantity);
		const choices = quantity === 'choice' ? { choices: parameter.choices } : {};
		if (!given && 'formula' in parameter && quantity !== 'choice' && parameter.formula !== undefined) {
			const asked = this.slot(parameter.formula, quantity === 'yesno' ? 'count' : quantity, parameter.label);
			const slot = this.clampSlot(asked, parameter.least, parameter.greatest, name);
			this.numbers.name(name, slot, { dimension });
			this.numbers.values.set(name, slot);
			return;
		}
		const slot = this.numbers.take(!varying && (!('scope' in parameter) || parameter.scope !== 'host'));
		this.numbers.parameters.set(name, slot);
		this.numbers.name(name, slot, { dimension, ...choices });
	}

	/** A slot held between limits; hosts on which it is held back are told under a parameter's name. */
	clampSlot(asked: number, least: number, greatest: number, name?: string): number {
		const slot = this.numbers.take(this.isUniform(asked));
		const out = new Float64Array(BLOCK);
		this.op((block) => {
			const from = block.columns[asked]!;
			const told = name === undefined ? undefined : block.clamped.get(name);
			for (let h = 0; h < block.count; h++) {
				out[h] = Math.min(greatest, Math.max(least, from[h]!));
				if (told && !(Math.abs(out[h]! - from[h]!) <= SAME_RATIO * Math.max(1, Math.abs(out[h]!))))
					told[block.from + h] = 1;
			}
			block.columns[slot] = out;
		});
		return slot;
	}

	/** Pieces for which the steps on the present one run; `spawn` makes them, with the numbers named. */
	pieces(shape: HostShape, own: readonly string[], spawn: ChildPlan['spawn'], spokes = false): void {
		const step = this.step!;
		const slots: number[] = [];
		const builder = this.inner(step, shape, (program, captured) => {
			if (program.parts.length + program.children.length > 0)
				this.children.push({ step: step.name, program, own: slots, captured, spawn, spokes });
		});
		for (const name of own) slots.push(builder.ownSlot(name));
	}

	/** A program for the steps on the present one; `ready` is called with it once they are compiled. */
	inner(step: Step, shape: HostShape, ready: Inner['ready']): Builder {
		const builder = new Builder(this.kit, shape, this.world, this);
		this.inside.push({ step, builder, ready });
		return builder;
	}

	/** Another kit for hosts that `spawn` makes, one for each of these at most. */
	innerKit(
		kit: Kit,
		shape: HostShape,
		given: ReadonlyMap<string, number>,
		texts: Readonly<Record<string, string>>,
		spawn: ChildPlan['spawn']
	): void {
		const varying = new Set([...given].flatMap(([name, slot]) => (this.isUniform(slot) ? [] : [name])));
		const program = this.world.compile(kit, shape, {
			given: new Set(given.keys()),
			varying,
			texts,
			depth: this.world.depth + 1
		});
		const captured = [...given].flatMap(([name, slot]) => {
			const inner = program.parameters.get(name);
			return inner === undefined ? [] : [[slot, inner] as const];
		});
		this.children.push({ step: this.step!.name, program, own: [], captured, spawn });
		this.needsSolids ||= program.needsSolids;
	}

	/** Something to be checked once everything is compiled. */
	later(check: () => void): void {
		const { step } = this;
		this.checks.push(() => {
			this.step = step;
			check();
		});
	}

	/** The programs within this one, to be compiled once all steps of its own are. */
	inners(): readonly Pick<Inner, 'step' | 'builder'>[] {
		return this.inside;
	}

	finishInners(): void {
		for (const { builder, ready } of this.inside) {
			this.needsSolids ||= builder.needsSolids;
			ready(builder.finish(), builder.numbers.captured);
		}
		for (const check of this.checks) check();
		this.step = undefined;
	}

	private readonly scope: Scope = {
		named: (name) => this.numbers.find(name),
		measured: (measure, names) => measureOf(this, measure, names),
		all: () => this.numbers.names()
	};

	fail(message: string): ZygasterError {
		const place = this.step?.name ?? '';
		return new ZygasterError(
			'kit',
			`${this.step ? `Step “${place}” of kit` : 'Kit'} “${this.kit.name}”: ${message}.`,
			this.step ? `${this.kit.name} › ${place}` : this.kit.name
		);
	}

	/** Why a name cannot be used here. */
	private unknown(name: string, wanted: string, known: readonly string[]): string {
		const step = this.allSteps.get(name);
		if (step?.off) return `“${name}” is switched off`;
		if (step && step.on !== this.step?.on)
			return `“${name}” is a step ${step.on ? `on “${step.on}”` : 'of the host itself'}, and this one is ${this.step?.on ? `on “${this.step.on}”` : 'of the host itself'}`;
		if (step) return `“${name}” is no ${wanted}`;
		return `there is no ${wanted} “${name}”; known here: ${known.join(', ') || 'none'}`;
	}

	finish(): KitProgram {
		if (this.points > MOST_POINTS)
			throw this.fail(
				`it makes ${group(this.points, 0)} points on one host; at most ${group(MOST_POINTS, 0)} fit. Right would be fewer pieces`
			);
		const { parameters, readings, constants, values, count } = this.numbers;
		return {
			kit: this.kit,
			shape: this.shape,
			pointsPerHost: this.points,
			parameters,
			readings,
			constants,
			values,
			slots: count,
			maskCount: this.masks,
			ops: this.ops,
			parts: this.parts.map((plan) => {
				this.step = plan.step;
				return {
					...plan,
					broken: this.fault(
						'it would have corners or sizes that are no numbers here, as where lines meet nowhere or something is divided by 0; right would be other values, or a host whose corners lie apart'
					)
				};
			}),
			children: this.children,
			faults: this.faults,
			lines: this.lines,
			bodies: this.bodies,
			needsSolids: this.needsSolids,
			texts: {}
		};
	}
}
