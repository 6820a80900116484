import type { Height } from '../../core/mass/fields.ts';
import { toWorld } from '../../core/mass/frame.ts';
import type { Point } from '../../core/geometry/curve.ts';
import type { DrawnProfile, Profile } from '../../core/mass/profile.ts';
import type { SettledShape } from '../../core/mass/shapes.ts';
import { settleShape } from '../../core/project/settle.ts';
import type { Mass, Project } from '../../core/project/schema.ts';
import { setAt, valueAt, type Path } from './paths.ts';

/** What dragging along a direction changes: `factor` times the way, in mm, is added to the value there. */
interface Target {
	/** From the mass. */
	readonly path: Path;
	readonly factor: number;
	/** Smallest value that it can be dragged to. */
	readonly least: number;
}

/** A point of the model that can be dragged. */
export interface Handle {
	readonly label: string;
	/** In the world, mm. */
	readonly at: Point;
	/** Unit directions of the world that it can be dragged along, one a target. */
	readonly directions: readonly Point[];
	readonly targets: readonly Target[];
}

type Axis = 'x' | 'y' | 'z';
const AXES: Record<Axis, Point> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };
/** A handle before it is put into the world: point of the mass, and what each axis of the mass changes. */
type LocalHandle = readonly [
	label: string,
	at: Point,
	moves: Partial<Record<Axis, readonly [path: Path, factor?: number]>>
];

/** The handles of a mass where it stands; none where its shape is unsound. */
export function handlesOf(project: Project, mass: Mass): Handle[] {
	let shape: SettledShape;
	try {
		shape = settleShape(project, mass);
	} catch {
		return [];
	}
	const local = (LOCAL[shape.kind] as (s: SettledShape) => LocalHandle[])(shape);
	return local.map(([label, at, moves]) => {
		const axes = (Object.keys(moves) as Axis[]).filter((axis) => moves[axis]);
		return {
			label,
			at: toWorld(mass.frame, at),
			directions: axes.map((axis) => worldDirection(mass, AXES[axis])),
			targets: axes.map((axis) => {
				const [path, factor = 1] = moves[axis]!;
				return { path: ['shape', ...path], factor, least: leastOf(path) };
			})
		};
	});
}

function worldDirection({ frame }: Mass, axis: Point): Point {
	const [o, p] = [toWorld(frame, [0, 0, 0]), toWorld(frame, axis)];
	return [p[0] - o[0], p[1] - o[1], p[2] - o[2]];
}

/** Sizes stay above nothing; places may be anywhere. */
const leastOf = (path: Path) =>
	/^(span|length|radius|radiusX|radiusY|radiusZ|width|depth|each)$/.test(String(path.at(-1))) ? 100 : -Infinity;

/** Values are rounded to this when dragged, mm. */
const ROUND = 10;

/** Adds to a mass what a handle was dragged: mm along each of its directions. */
export const dragHandle = (mass: Mass, handle: Handle, way: readonly number[]): void => dragTargets(mass, handle, way);

/** The same on anything that the targets' paths lead into. */
export function dragTargets(holder: object, handle: Handle, way: readonly number[]): void {
	handle.targets.forEach(({ path, factor, least }, k) => {
		const value = valueAt(holder, path) as Height;
		const add = way[k]! * factor;
		const moved = (from: number) => Math.max(least, Math.round((from + add) / ROUND) * ROUND);
		// What is dragged square to the way stays as it was typed.
		if (Math.abs(add) < ROUND / 2) return;
		setAt(holder, path, typeof value === 'number' ? moved(value) : { ...value, above: moved(value.above) });
	});
}

/** Handles for the points of a drawn line, or for the size of another. */
function profileHandles(
	profile: Profile,
	path: Path,
	place: (x: number, y: number) => Point,
	axes: readonly [Axis, Axis]
): LocalHandle[] {
	const at = (x: number, y: number, label: string, first?: Path, second?: Path): LocalHandle => [
		label,
		place(x, y),
		{ ...(first ? { [axes[0]]: [[...path, ...first]] } : {}), ...(second ? { [axes[1]]: [[...path, ...second]] } : {}) }
	];
	switch (profile.kind) {
		case 'circle':
			return [at(profile.radius, 0, 'Radius', ['radius'])];
		case 'polygon':
			return [at(profile.radius, 0, 'Radius', ['radius'])];
		case 'ellipse':
			return [
				at(profile.radiusX, 0, 'Half width', ['radiusX']),
				at(0, profile.radiusY, 'Half depth', undefined, ['radiusY'])
			];
		case 'rectangle':
			return [
				[`Width`, place(profile.width / 2, 0), { [axes[0]]: [[...path, 'width'], 2] }],
				[`Depth`, place(0, profile.depth / 2), { [axes[1]]: [[...path, 'depth'], 2] }]
			];
		case 'drawn':
			return (profile as DrawnProfile).points.map((p, k) =>
				at(p.x, p.y, `Point ${k + 1}`, ['points', k, 'x'], ['points', k, 'y'])
			);
	}
}

const point = (label: string, p: { x: number; y: number; z: number }, path: Path): LocalHandle => [
	label,
	[p.x, p.y, p.z],
	{ x: [[...path, 'x']], y: [[...path, 'y']], z: [[...path, 'z']] }
];

const LOCAL: { readonly [K in SettledShape['kind']]: (shape: Extract<SettledShape, { kind: K }>) => LocalHandle[] } = {
	vault: ({ length, sections }) => [
		...sections.flatMap((s, k): LocalHandle[] => {
			const y = s.at * length;
			const path = ['sections', k];
			return [
				[
					`Crown of section ${k + 1}`,
					[s.shift + s.lean, y, (s.startHeight + s.endHeight) / 2 + s.rise],
					{ x: [[...path, 'lean']], z: [[...path, 'rise']] }
				],
				[
					`Start foot of section ${k + 1}`,
					[s.shift - s.span / 2, y, s.startHeight],
					{ x: [[...path, 'span'], -2], z: [[...path, 'startHeight']] }
				],
				[
					`End foot of section ${k + 1}`,
					[s.shift + s.span / 2, y, s.endHeight],
					{ x: [[...path, 'span'], 2], z: [[...path, 'endHeight']] }
				]
			];
		}),
		[
			'Length',
			[sections.at(-1)!.shift, length, Math.min(sections.at(-1)!.startHeight, sections.at(-1)!.endHeight)],
			{ y: [['length']] }
		]
	],
	loft: ({ sections }) =>
		sections.map((s, k): LocalHandle => [
			`Section ${k + 1}`,
			[s.shiftX, s.shiftY, s.height],
			{ x: [['sections', k, 'shiftX']], y: [['sections', k, 'shiftY']], z: [['sections', k, 'height']] }
		]),
	tower: ({ footprint, base, top }) => [
		...profileHandles(footprint, ['footprint'], (x, y) => [x, y, base], ['x', 'y']),
		['Top', [0, 0, top], { z: [['top']] }]
	],
	block: ({ footprint, base, rise, roof }) => {
		const top = rise.kind === 'top' ? rise.height : base + rise.count * rise.each;
		return [
			...profileHandles(footprint, ['footprint'], (x, y) => [x, y, base], ['x', 'y']),
			[
				'Top of the walls',
				[0, 0, top],
				{ z: rise.kind === 'top' ? [['rise', 'height']] : [['rise', 'each'], 1 / rise.count] }
			],
			...(roof.kind === 'pitched'
				? [['Ridge', [0, 0, top + roof.height], { z: [['roof', 'height']] }] as LocalHandle]
				: [])
		];
	},
	extrusion: ({ profile, base, top, leanX, leanY }) => [
		...profileHandles(profile, ['profile'], (x, y) => [x, y, base], ['x', 'y']),
		['Top and lean', [leanX, leanY, top], { x: [['leanX']], y: [['leanY']], z: [['top']] }]
	],
	revolution: ({ profile, base, offset }) =>
		profileHandles(profile, ['profile'], (x, y) => [x + offset, 0, y + base], ['x', 'z']),
	dome: ({ radiusX, radiusY, radiusZ, centre, bottom, ring }) => [
		['Radius east', [radiusX, 0, centre], { x: [['radiusX']] }],
		['Radius north', [0, radiusY, centre], { y: [['radiusY']] }],
		['Radius up', [0, 0, centre + radiusZ], { z: [['radiusZ']] }],
		['Cut below', [0, 0, bottom], { z: [['bottom']] }],
		...(ring === null ? [] : [['Ring above', [radiusX / 4, 0, ring], { z: [['ring']] }] as LocalHandle])
	],
	translation: ({ section, path, base }) => [
		...profileHandles(section, ['section'], (x, y) => [x, 0, y + base], ['x', 'z']),
		...profileHandles(path, ['path'], (x, y) => [0, x, y + base], ['y', 'z'])
	],
	hypar: ({ corners }) => corners.map((p, k) => point(`Corner ${k + 1}`, p, ['corners', k])),
	ruled: ({ lower, upper }) => [
		...lower.points.map((p, k) => point(`Lower point ${k + 1}`, p, ['lower', 'points', k])),
		...upper.points.map((p, k) => point(`Upper point ${k + 1}`, p, ['upper', 'points', k]))
	],
	'control-net': ({ points }) =>
		points.flatMap((row, j) => row.map((p, i) => point(`Row ${j + 1}, column ${i + 1}`, p, ['points', j, i]))),
	imported: () => []
};

/** Handle that moves a whole mass over the ground. */
export function frameHandle(mass: Mass): Handle {
	return {
		label: `Position of ${mass.name}`,
		at: toWorld(mass.frame, [0, 0, 0]),
		directions: [
			[1, 0, 0],
			[0, 1, 0]
		],
		targets: [
			{ path: ['frame', 'x'], factor: 1, least: -Infinity },
			{ path: ['frame', 'y'], factor: 1, least: -Infinity }
		]
	};
}

/** Handles at the corners of a face on its way in. */
export const cornerHandles = (corners: readonly Point[]): Handle[] =>
	corners.map((at, k) => ({ label: `Corner ${k + 1}`, at, directions: [AXES.x, AXES.y, AXES.z], targets: [] }));
