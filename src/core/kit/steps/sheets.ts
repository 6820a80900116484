import { square } from '../../elementary/index.ts';
import type { Point } from '../../geometry/curve.ts';
import { newell } from '../../geometry/newell.ts';
import type { Builder } from '../builder.ts';
import { markFailed } from '../sound.ts';
import { option, partFields, ref, refOrNone, refsOrNone, thickness, value } from '../fields.ts';
import { bulgeArea } from '../curves.ts';
import { areaOf, areasOf, flatAreaOf, trueLengths } from '../measures.ts';
import type { Block, Line, PartPlan } from '../program.ts';
import type { PartStep } from '../schema.ts';
import { stepKind } from '../stepKind.ts';
import { looseFill } from '../fillOutline.ts';

const FOLDS = {
	fan: 'As it comes',
	flat: 'Flat',
	warped: 'Warped',
	fold13: 'Folded from 1 to 3',
	fold24: 'Folded from 2 to 4',
	centre: 'To a point'
} as const;

/** Thin fill of a closed line. */
export const sheet = stepKind({
	kind: 'sheet',
	group: 'parts',
	makes: 'part',
	label: 'Sheet',
	help: 'A thin fill of a closed line: flat, warped, folded over a diagonal, or in triangles to a point',
	fields: {
		...partFields,
		outline: ref(['line'], 'Outline', 'A closed line'),
		hole: refOrNone(['line'], 'Hole', 'A closed line of as many corners'),
		holes: refsOrNone(['line'], 'More holes', 'Closed lines of any number of corners within'),
		shape: option(FOLDS, 'Shape', 'How it lies between corners that are not in one plane'),
		tip: refOrNone(['point'], 'Point', 'The point that triangles run to; the middle of the line when left out'),
		thickness
	},
	compile(step, b) {
		const outline = closedLine(b, step.outline);
		const thick = b.slot(step.thickness, 'length', 'Thickness');
		checkHoles(b, outline, [...(step.hole ? [step.hole] : []), ...(step.holes ?? [])]);
		const apart = b.shape.single || (mayBeDented(outline) && (step.shape === 'fan' || step.shape === 'flat'));
		if (step.holes?.length || (apart && step.hole === undefined && step.shape !== 'centre')) {
			const filled = step.shape === 'flat' && !b.shape.single && !step.holes?.length ? flattened(b, outline) : outline;
			const holes = [
				...(outline.holes ?? []),
				...(step.holes ?? []).map((name) => closedLine(b, name)),
				...(step.hole ? [closedLine(b, step.hole)] : [])
			];
			return void b.parts.push(looseFill(b, step, filled, holes, thick, 'sheet'));
		}
		const hole = step.hole === undefined ? undefined : closedLine(b, step.hole);
		const { triangles, run } = hole ? { triangles: band(b, outline, hole), run: outline } : filled(b, step, outline);
		b.parts.push(
			sheetPart(
				b,
				step,
				Uint16Array.from(triangles),
				run,
				thick,
				step.shape === 'centre' ? [] : hole ? [outline, hole] : [run]
			)
		);
	}
});

/** Holes run around as their outline does; one that does not has sides that have crossed on their way in. */
function checkHoles(b: Builder, outline: Line, names: readonly string[]): void {
	for (const name of names) {
		// An inset has made sure of it.
		if (b.allSteps.get(name)?.kind === 'inset') continue;
		const hole = closedLine(b, name);
		const code = b.fault(
			`its hole “${name}” is turned round: its sides have crossed, or its corners run the other way; right would be sides that do not cross, and corners anticlockwise`
		);
		const { mask } = b;
		b.op((block) => {
			const base = (h: number) => (block.from + h) * block.stride;
			for (let h = 0; h < block.count; h++) {
				const [n, m] = [outline, hole].map(({ first, count }) =>
					newell(block.points, count, (k) => base(h) + (first + k) * 3)
				) as [Point, Point];
				if (n[0] * m[0] + n[1] * m[1] + n[2] * m[2] < 0) markFailed(block, h, mask, code);
			}
		});
	}
}

/** Whether the triangles of a fan may lie outside of a line. */
const mayBeDented = ({ free, count }: Line) => free === true && count > 3;

type SheetStep = Extract<PartStep, { kind: 'sheet' }>;

/** A part drawn by triangles over points, whose weight follows from its area; `rings` are its outline and its hole, where they may be curved. */
function sheetPart(
	b: Builder,
	step: PartStep,
	triangles: Uint16Array,
	run: Line,
	thick: number,
	rings: readonly Line[]
): PartPlan {
	const curved = rings.some((ring) => ring.curves);
	const areaAt = (block: Block, h: number) => areaOf(block, triangles, h) + (curved ? bulgeOf(block, rings, h) : 0);
	return {
		step,
		mask: b.mask,
		geometry: { kind: 'pattern', triangles },
		area: areaAt,
		measure(block, { area, length, volume, pieces }) {
			const { from, count } = block;
			const thicknesses = block.columns[thick]!;
			areasOf(block, triangles, area);
			if (curved) for (let h = 0; h < count; h++) area[from + h]! += bulgeOf(block, rings, h);
			trueLengths(block, run, length);
			for (let h = 0; h < count; h++) {
				volume[from + h] = area[from + h]! * thicknesses[h]!;
				pieces[from + h] = 1;
			}
		}
	};
}

/** What the curves of an outline add to the area that chords enclose, less what those of its holes do. */
const bulgeOf = (block: Block, [outline, ...holes]: readonly Line[], h: number) =>
	(outline ? bulgeArea(block, outline, h) : 0) - holes.reduce((sum, hole) => sum + bulgeArea(block, hole, h), 0);

function filled(b: Builder, { shape, tip }: SheetStep, outline: Line): { triangles: number[]; run: Line } {
	const { first, count: n } = outline;
	switch (shape) {
		case 'fold24':
			if (n !== 4) throw b.fail(`a sheet is folded over a diagonal of four corners; “${outline.count}” are given`);
			return { triangles: [first + 1, first + 2, first + 3, first + 1, first + 3, first], run: outline };
		case 'fan':
		case 'fold13':
			if (shape === 'fold13' && n !== 4)
				throw b.fail(`a sheet is folded over a diagonal of four corners; “${outline.count}” are given`);
			return { triangles: fan(outline), run: outline };
		case 'centre': {
			const apex = tip === undefined ? meanPoint(b, outline) : b.point(tip);
			return {
				triangles: Array.from({ length: n }, (_, k) => [apex.first, first + k, first + ((k + 1) % n)]).flat(),
				run: outline
			};
		}
		case 'flat': {
			const flat = flattened(b, outline);
			return { triangles: fan(flat), run: flat };
		}
		case 'warped':
			return { triangles: warped(b, outline), run: outline };
	}
}

const fan = ({ first, count }: Line): number[] =>
	Array.from({ length: count - 2 }, (_, k) => [first, first + k + 1, first + k + 2]).flat();

function meanPoint(b: Builder, outline: Line): Line {
	const point = b.take(1);
	b.op(({ points, stride, from, count }) => {
		for (let h = 0; h < count; h++)
			for (let c = 0; c < 3; c++) {
				let sum = 0;
				for (let k = 0; k < outline.count; k++) sum += points[(from + h) * stride + (outline.first + k) * 3 + c]!;
				points[(from + h) * stride + point.first * 3 + c] = sum / outline.count;
			}
	});
	return point;
}

/** The outline in the mean plane of the host. */
function flattened(b: Builder, outline: Line): Line {
	const flat = b.take(outline.count, true);
	b.op(({ hosts, points, stride, from, count }) => {
		for (let h = 0; h < count; h++) {
			const n = hosts.ids[from + h]! * 3;
			const base = (from + h) * stride;
			const heights = Array.from({ length: outline.count }, (_, k) =>
				[0, 1, 2].reduce((s, c) => s + points[base + (outline.first + k) * 3 + c]! * hosts.normal[n + c]!, 0)
			);
			const mean = heights.reduce((a, x) => a + x, 0) / heights.length;
			heights.forEach((height, k) => {
				for (let c = 0; c < 3; c++)
					points[base + (flat.first + k) * 3 + c] =
						points[base + (outline.first + k) * 3 + c]! - (height - mean) * hosts.normal[n + c]!;
			});
		}
	});
	return flat;
}

/** Pieces along each side of a warped sheet. */
const WARPED_PIECES = 6;

/** The bilinear surface between four corners, in pieces. */
function warped(b: Builder, outline: Line): number[] {
	if (outline.count !== 4) throw b.fail(`a warped sheet lies between four corners; given are ${outline.count}`);
	const m = WARPED_PIECES;
	const grid = b.take(square(m + 1));
	b.op(({ points, stride, from, count }) => {
		for (let h = 0; h < count; h++) {
			const base = (from + h) * stride;
			const o = base + outline.first * 3;
			for (let j = 0; j <= m; j++)
				for (let i = 0; i <= m; i++) {
					const [s, t] = [i / m, j / m];
					const to = base + (grid.first + j * (m + 1) + i) * 3;
					for (let c = 0; c < 3; c++)
						points[to + c] =
							(1 - s) * (1 - t) * points[o + c]! +
							s * (1 - t) * points[o + 3 + c]! +
							s * t * points[o + 6 + c]! +
							(1 - s) * t * points[o + 9 + c]!;
				}
		}
	});
	const triangles: number[] = [];
	for (let j = 0; j < m; j++)
		for (let i = 0; i < m; i++) {
			const a = grid.first + j * (m + 1) + i;
			triangles.push(a, a + 1, a + m + 2, a, a + m + 2, a + m + 1);
		}
	return triangles;
}

/** A thick fill. */
export const plate = stepKind({
	kind: 'plate',
	group: 'parts',
	makes: 'part',
	label: 'Plate',
	help: 'A thick fill of a closed line with all its sides, to the outside, the inside or both; with holes',
	fields: {
		...partFields,
		outline: ref(['line'], 'Outline', 'A closed line'),
		thickness: value('length', 'Thickness', '', 20),
		side: option({ inside: 'Inside of the line', outside: 'Outside of the line', both: 'To both sides' }, 'Lies'),
		holes: refsOrNone(['line'], 'Holes', 'Closed lines within')
	},
	compile(step, b) {
		const outline = closedLine(b, step.outline);
		const thick = b.slot(step.thickness, 'length', 'Thickness');
		const none = b.fault('the thickness is not above 0');
		const { mask } = b;
		b.op((block) => {
			for (let h = 0; h < block.count; h++) if (!(block.columns[thick]![h]! > 0)) markFailed(block, h, mask, none);
		});
		checkHoles(b, outline, step.holes ?? []);
		const holes = [...(outline.holes ?? []), ...(step.holes ?? []).map((name) => closedLine(b, name))];
		if (holes.length || b.shape.single || mayBeDented(outline))
			return void b.parts.push(looseFill(b, step, outline, holes, thick, step.side));
		const share = { inside: [0, -1], outside: [1, 0], both: [0.5, -0.5] }[step.side] as [number, number];
		const [front, back] = share.map((s) => (s === 0 ? outline : shifted(b, outline, thick, s))) as [Line, Line];
		const face = fan(front);
		const triangles = [...face, ...fan(back).reverse(), ...band(b, back, front)];
		b.parts.push(platePart(b, step, Uint16Array.from(face), Uint16Array.from(triangles), outline, thick));
	}
});

/** A body between a face and its copy a thickness away along the host's normal: as much as what lies under the face, seen along that. */
function platePart(
	b: Builder,
	step: PartStep,
	face: Uint16Array,
	triangles: Uint16Array,
	outline: Line,
	thick: number
): PartPlan {
	const sheet = sheetPart(b, step, face, outline, thick, [outline]);
	return {
		...sheet,
		geometry: { kind: 'pattern', triangles },
		measure(block, quantities) {
			sheet.measure!(block, quantities);
			for (let h = 0; h < block.count; h++)
				quantities.volume[block.from + h] =
					(flatAreaOf(block, face, h) + bulgeArea(block, outline, h)) * block.columns[thick]![h]!;
		}
	};
}

function shifted(b: Builder, line: Line, thick: number, share: number): Line {
	const out = b.take(line.count, line.closed);
	b.op((block) => {
		const { hosts, points, stride, from, count } = block;
		for (let h = 0; h < count; h++) {
			const n = hosts.ids[from + h]! * 3;
			const by = block.columns[thick]![h]! * share;
			const base = (from + h) * stride;
			for (let k = 0; k < line.count * 3; k++)
				points[base + out.first * 3 + k] = points[base + line.first * 3 + k]! + hosts.normal[n + (k % 3)]! * by;
		}
	});
	return out;
}

/** Strip between two lines. */
export const ribbon = stepKind({
	kind: 'ribbon',
	group: 'parts',
	makes: 'part',
	label: 'Ribbon',
	help: 'A strip between two lines of as many points, straight from one to the other',
	fields: { ...partFields, from: ref(['line'], 'From'), to: ref(['line'], 'To'), thickness },
	compile(step, b) {
		const [from, to] = [b.line(step.from, 2), b.line(step.to, 2)];
		if (from.closed !== to.closed) throw b.fail('one of its lines is closed and the other open');
		b.parts.push(
			sheetPart(b, step, Uint16Array.from(band(b, from, to)), from, b.slot(step.thickness, 'length', 'Thickness'), [])
		);
	}
});

/** Two triangles for each side between two lines of as many points. */
export function band(b: Builder, outer: Line, inner: Line): number[] {
	const n = outer.count;
	if (inner.count !== n) throw b.fail(`its two lines have ${n} and ${inner.count} corners; needed are as many`);
	const triangles: number[] = [];
	for (let k = 0; k < (outer.closed ? n : n - 1); k++) {
		const next = (k + 1) % n;
		const [p, q] = [outer.first + k, outer.first + next];
		const [r, s] = [inner.first + next, inner.first + k];
		triangles.push(p, q, r, p, r, s);
	}
	return triangles;
}

/** The closed line of a step with so many corners at least. Throws a ZygasterError with code `kit` for an open one. */
export function closedLine(b: Builder, name: string): Line {
	const line = b.line(name, 3);
	if (!line.closed) throw b.fail(`“${name}” is open; wanted is a closed line`);
	return line;
}
