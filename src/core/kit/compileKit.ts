import { ZygasterError } from '../errors.ts';
import type { KitLibrary, ModuleLibrary } from './builderWorld.ts';
import { stepsFor } from './stepsFor.ts';
import { Builder } from './builder.ts';
import { bayPoints } from './baySize.ts';
import { cornersInWords, takesCorners } from './corners.ts';
import type { HostShape } from './hosts.ts';
import type { KitProgram } from './program.ts';
import { mentioned, referencesOf } from './references.ts';
import type { Kit, KitParameter } from './schema.ts';
import { STEP_KINDS, type AnyStep } from './stepKinds.ts';

export interface CompileOptions {
	readonly library?: KitLibrary;
	readonly modules?: ModuleLibrary;
	/** Parameters that have a value given, so that their formulas do not hold. */
	readonly given?: ReadonlySet<string>;
	/** Those of them that differ from host to host, though the kit has one value for all. */
	readonly varying?: ReadonlySet<string>;
	/** Texts and materials given to an inner kit. */
	readonly texts?: Readonly<Record<string, string>>;
	/** How many kits this one stands in. */
	readonly depth?: number;
}

const NO_KITS: KitLibrary = new Map();
const NO_MODULES: ModuleLibrary = new Map();
const NONE: ReadonlySet<string> = new Set();

/** Parameters that have a value given, and those of them that differ from host to host. */
type Given = Required<Pick<CompileOptions, 'given' | 'varying'>>;

/**
 * Compiles a kit for hosts of one shape. Throws a ZygasterError with code `kit` that names the step at fault:
 * a name that is not known, a circle, units that do not go together, a host that the kit is not made for.
 */
export function compileKit(kit: Kit, shape: HostShape, options: CompileOptions = {}): KitProgram {
	checkHost(kit, shape);
	const { library = NO_KITS, modules = NO_MODULES, depth = 0 } = options;
	const b = new Builder(kit, shape, {
		library,
		modules,
		depth,
		takes: (step) => referencesOf(step).takes,
		compile: (inner, on, given) => compileKit(inner, on, { library, modules, ...given })
	});
	const steps = stepsFor(kit, shape.corners);
	checkNames(b, kit, steps);
	compileLevel(b, steps, undefined, kit.parameters, { given: options.given ?? NONE, varying: options.varying ?? NONE });
	return { ...b.finish(), texts: options.texts ?? {} };
}

function checkHost({ name, host }: Kit, { kind, corners }: HostShape): void {
	const fault = (message: string) => new ZygasterError('kit', `“${name}” ${message}`, name);
	const wanted = {
		cell: 'cells',
		box: 'cells with depth',
		edge: 'edges',
		node: 'nodes',
		path: 'paths',
		bay: 'bays'
	} as const;
	if (host.kind !== kind) throw fault(`is made for ${wanted[host.kind]}, not for ${wanted[kind]}.`);
	if ('leastCorners' in host && !takesCorners(host, corners))
		throw fault(`fits cells with ${cornersInWords(host)}; this cell has ${corners}.`);
	if (host.kind === 'bay' && bayPoints(host) !== corners)
		throw fault(`is made for ${bayPoints(host)} points (${host.across} × ${host.up} cells); this bay has ${corners}.`);
}

function checkNames(b: Builder, kit: Kit, steps: readonly AnyStep[]): void {
	const names = new Set<string>();
	for (const { name } of kit.parameters) {
		if (names.has(name)) throw b.fail(`two parameters are named “${name}”`);
		names.add(name);
	}
	for (const step of steps) {
		b.step = step;
		if (names.has(step.name)) throw b.fail('another step or a parameter has the same name');
		names.add(step.name);
	}
	b.step = undefined;
}

/** Compiles the steps that run on `on`, whatever order they stand in, and then those on their pieces. */
function compileLevel(
	b: Builder,
	all: readonly AnyStep[],
	on: string | undefined,
	parameters: readonly KitParameter[],
	{ given, varying }: Given
): void {
	const steps = all.filter((s) => s.on === on);
	for (const item of sorted(
		b,
		[...parameters.map((parameter) => ({ parameter })), ...steps.map((step) => ({ step }))],
		given
	)) {
		if ('parameter' in item) {
			b.addParameter(item.parameter, given.has(item.parameter.name), varying.has(item.parameter.name));
			continue;
		}
		const { step } = item;
		b.begin(step);
		STEP_KINDS[step.kind].compile(step, b);
	}
	b.step = undefined;
	if (on === undefined) checkContexts(b, all);
	for (const child of b.inners()) compileLevel(child.builder, all, child.step.name, [], { given, varying });
	b.finishInners();
}

/** Steps must run on pieces that are there. */
function checkContexts(b: Builder, all: readonly AnyStep[]): void {
	const makers = all.filter((s) => ['pieces', 'mould'].includes(STEP_KINDS[s.kind].makes));
	for (const step of all) {
		if (step.on === undefined || makers.some((m) => m.name === step.on)) continue;
		b.step = step;
		throw b.fail(
			`it runs on “${step.on}”, which gives no pieces; known: ${makers.map((m) => m.name).join(', ') || 'none'}`
		);
	}
}

type Item = { readonly parameter: KitParameter } | { readonly step: AnyStep };

/** Everything behind what it takes from, otherwise in the order given. Throws where that leads in a circle. */
function sorted(b: Builder, items: readonly Item[], given: ReadonlySet<string>): Item[] {
	const nameOf = (item: Item) => ('parameter' in item ? item.parameter.name : item.step.name);
	const byName = new Map(items.map((item) => [nameOf(item), item]));
	const state = new Map<Item, 'open' | 'done'>();
	const out: Item[] = [];
	const trail: string[] = [];
	const visit = (item: Item): void => {
		if (state.get(item) === 'done') return;
		trail.push(nameOf(item));
		if (state.get(item) === 'open') {
			b.step = 'step' in item ? item.step : undefined;
			throw b.fail(`its formulas lead in a circle: ${trail.slice(trail.indexOf(nameOf(item))).join(' → ')}`);
		}
		state.set(item, 'open');
		for (const name of needs(item, given)) {
			const needed = byName.get(name);
			if (needed) visit(needed);
		}
		trail.pop();
		state.set(item, 'done');
		out.push(item);
	};
	items.forEach(visit);
	return out;
}

function needs(item: Item, given: ReadonlySet<string>): readonly string[] {
	if ('step' in item) {
		const { takes, mentions } = referencesOf(item.step);
		return [...takes, ...mentions];
	}
	const { parameter } = item;
	return !given.has(parameter.name) && 'formula' in parameter && parameter.formula !== undefined
		? mentioned(parameter.formula)
		: [];
}
