import { messageOf } from '../errors.ts';
import { compileKit, type CompileOptions } from '../kit/compileKit.ts';
import { evaluateKit } from '../kit/evaluate.ts';
import type { Line } from '../kit/program.ts';
import type { KitResult } from '../kit/result.ts';
import type { Kit } from '../kit/schema.ts';
import type { SolidPort } from '../kit/solids.ts';
import { shapeOfTrial, trialColumns, type TrialHost } from '../kit/trialHosts.ts';
import { settleValues, type GivenValues } from '../kit/values.ts';
import { joinPlacements } from './joined/joinPlacements.ts';
import { batchByMaterial, instancesOf, type InstanceBatch, type MaterialBatch, type Point } from './batches.ts';
import { placementsOf, type Densities } from './place.ts';

/** Points and lines that a step has made. */
export interface TrialShape {
	readonly step: string;
	readonly closed: boolean;
	/** mm, stride 3; one point, or a line. */
	readonly points: Float64Array;
}

export interface TrialPart {
	readonly step: string;
	readonly material: string;
	/** mm2, mm and kg of all pieces. */
	readonly area: number;
	readonly length: number;
	readonly mass: number;
	readonly pieces: number;
}

/** A kit on one trial host. */
export interface Trial {
	/** What is wrong with the kit itself; nothing is made then. */
	readonly error?: { readonly message: string; readonly step: string | undefined };
	readonly failures: readonly { readonly step: string; readonly reason: string }[];
	readonly shapes: readonly TrialShape[];
	/** By step of the part: what it draws. */
	readonly batches: readonly (MaterialBatch & { readonly step: string })[];
	readonly instances: readonly (InstanceBatch & { readonly step: string })[];
	readonly parts: readonly TrialPart[];
	/** Values of formulas by name. */
	readonly values: Readonly<Record<string, number>>;
	/** Parameters whose formula was held at its limits. */
	readonly clamped: readonly string[];
	/** Milliseconds for one host, and bytes that its parts take. */
	readonly time: number;
	readonly bytes: number;
}

export interface TrialOptions extends Pick<CompileOptions, 'library' | 'modules'> {
	readonly densities: Densities;
	readonly solids?: SolidPort | undefined;
	readonly now?: () => number;
}

const NOTHING = {
	failures: [],
	shapes: [],
	batches: [],
	instances: [],
	parts: [],
	values: {},
	clamped: [],
	time: 0,
	bytes: 0
} as const;
const ORIGIN: Point = [0, 0, 0];

/** Runs a kit on one host. A kit at fault answers what is wrong instead of throwing. */
export function runTrial(kit: Kit, given: GivenValues, host: TrialHost, options: TrialOptions): Trial {
	const ran = evaluateTrial(kit, given, host, options);
	if ('error' in ran) return { ...NOTHING, error: ran.error };
	const { result, texts, time } = ran;
	const { placements, failures } = joinPlacements(placementsOf(result, host.kind, texts, options.densities, false));
	const parts = placements.flatMap(({ hosts, parts }) => parts.map((part) => ({ part, rows: hosts.length })));
	const batches = parts.flatMap((drawn) =>
		batchByMaterial([drawn], ORIGIN).map((batch) => ({ ...batch, step: drawn.part.name }))
	);
	const instances = parts.flatMap((drawn) =>
		instancesOf([drawn], ORIGIN).map((batch) => ({ ...batch, step: drawn.part.name }))
	);
	return {
		failures: [...result.failures, ...failures].map(({ step, reason }) => ({ step, reason })),
		shapes: shapesOf(result),
		batches,
		instances,
		parts: parts.map(({ part }) => ({
			step: part.name,
			material: part.material,
			area: sum(part.area),
			length: sum(part.length),
			mass: sum(part.volume) * part.density,
			pieces: sum(part.pieces)
		})),
		values: Object.fromEntries([...result.values].map(([name, column]) => [name, column[0] ?? NaN])),
		clamped: [...result.clamped.keys()],
		time,
		bytes:
			batches.reduce((n, b) => n + b.positions.byteLength + b.indices.byteLength, 0) +
			instances.reduce((n, b) => n + b.matrices.byteLength, 0)
	};
}

type Ran =
	| { readonly error: NonNullable<Trial['error']> }
	| { readonly result: KitResult; readonly texts: Readonly<Record<string, string>>; readonly time: number };

/** Runs that a time is taken over, and milliseconds that they may take. */
const MOST_TIMED = 40;
const LONG_ENOUGH_MS = 4;

/** The kit's result on one host; with a clock the mean time of warm runs. */
export function evaluateTrial(
	kit: Kit,
	given: GivenValues,
	host: TrialHost,
	{ library, modules, solids, now }: TrialOptions
): Ran {
	try {
		const settled = settleValues(kit, given);
		const program = compileKit(kit, shapeOfTrial(host), {
			...(library ? { library } : {}),
			...(modules ? { modules } : {}),
			given: settled.given,
			texts: settled.texts
		});
		const hosts = trialColumns(host);
		const run = () => evaluateKit(program, settled.values, hosts, solids ? { solids } : {});
		const result = run();
		if (!now) return { result, texts: settled.texts, time: 0 };
		const start = now();
		let runs = 0;
		for (; runs < MOST_TIMED && now() - start < LONG_ENOUGH_MS; runs++) run();
		return { result, texts: settled.texts, time: (now() - start) / runs };
	} catch (cause) {
		const step = /Step “([^”]+)”/.exec(messageOf(cause))?.[1];
		return { error: { message: messageOf(cause), step } };
	}
}

function shapesOf(result: KitResult): TrialShape[] {
	const { program, points, hosts } = result;
	const of = (line: Line, row: number) =>
		points.slice(
			(row * program.pointsPerHost + line.first) * 3,
			(row * program.pointsPerHost + line.first + line.count) * 3
		);
	const own = [...program.lines].flatMap(([step, line]) =>
		Array.from(hosts, (_, row) => ({ step, closed: line.closed, points: of(line, row) })).filter((s) =>
			s.points.every(Number.isFinite)
		)
	);
	return [...own, ...result.inner.filter((r) => r.program.kit === program.kit).flatMap(shapesOf)];
}

const sum = (values: Float64Array) => values.reduce((a, b) => a + b, 0);
