import { cos, sin } from '../elementary/index.ts';
import { FRESH_ARRAYS } from '../arrays.ts';
import { ZygasterError } from '../errors.ts';
import { OPEN_ENDS } from '../geometry/borders.ts';
import { evaluatePoints } from '../geometry/evaluate.ts';
import { developmentOf, FlatFinder, type ChartedFace } from './development.ts';
import { isPlain, layLines } from './layLines.ts';
import { checkCells, type SetOut } from './nodes.ts';
import type { Direction, SettingOut } from './spacing.ts';
import type { FlatRing } from './flatBorder.ts';
import { withinRing } from './flatBorder.ts';

/**
 * Divides a face by a grid turned about the middle of the face as it lies flat. The grid covers the whole
 * face and more; places off it have no position, and its border cuts the cells. O(places). Throws a
 * ZygasterError with code `setting-out` for faces and spacings that cannot be turned.
 */
export function setOutTurned(
	face: ChartedFace,
	settingOut: SettingOut,
	border: FlatRing,
	arrays = FRESH_ARRAYS
): SetOut {
	const { ends } = face;
	if (ends.closedAcross || ends.closedUp)
		throw new ZygasterError(
			'setting-out',
			'This face closes on itself, and a turned grid would not meet itself at the seam. Right would be a turn of 0°.'
		);
	if (settingOut.fair > 0)
		throw new ZygasterError(
			'setting-out',
			'A turned grid cannot be made fair, since it runs past the borders. Right would be 0 fair rounds or a turn of 0°.'
		);
	const [x0, y0, x1, y1] = developmentOf(face).bounds;
	const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
	const [cosine, sine] = [cos(settingOut.turn), sin(settingOut.turn)];
	let [p0, q0, p1, q1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const [x, y] of border) {
		const [p, q] = [(x - cx) * cosine + (y - cy) * sine, (y - cy) * cosine - (x - cx) * sine];
		[p0, q0, p1, q1] = [Math.min(p0, p), Math.min(q0, q), Math.max(p1, p), Math.max(q1, q)];
	}
	const across = linesAlong(settingOut.across, p1 - p0, 'across');
	const up = linesAlong(settingOut.up, q1 - q0, 'up');
	const [columns, rows] = [across.length, up.length];
	checkCells(columns - 1, rows - 1);
	const count = columns * rows;
	const flat = new Float64Array(count * 2);
	const onFace = new Uint8Array(count);
	const [us, vs] = [
		new Float64Array(count).fill(face.chart.shares.us[0]!),
		new Float64Array(count).fill(face.chart.shares.vs[0]!)
	];
	const finder = new FlatFinder(developmentOf(face));
	for (let j = 0, k = 0; j < rows; j++)
		for (let i = 0; i < columns; i++, k++) {
			const [p, q] = [p0 + across[i]!, q0 + up[j]!];
			const [x, y] = [cx + p * cosine - q * sine, cy + p * sine + q * cosine];
			flat.set([x, y], k * 2);
			const at = withinRing(border, x, y) ? finder.find(x, y) : undefined;
			if (!at) continue;
			onFace[k] = 1;
			us[k] = at.u;
			vs[k] = at.v;
		}
	const { position, normal } = evaluatePoints(face.surface, us, vs, arrays);
	const nodes = {
		columns,
		rows,
		ends: OPEN_ENDS,
		collapsed: false,
		fromEnd: { across: settingOut.across.from === 'end', up: settingOut.up.from === 'end' },
		us,
		vs,
		position,
		normal,
		flat,
		onFace
	};
	const [tableAcross, tableUp] = face.chart.tables;
	const direction = (lines: Float64Array, table: typeof tableAcross) => ({
		count: lines.length - 1,
		values: lines.map((p) => p / lines.at(-1)!),
		lines,
		table,
		notes: []
	});
	return { nodes, across: direction(across, tableAcross), up: direction(up, tableUp), notes: [] };
}

function linesAlong(direction: Direction, length: number, name: string): Float64Array {
	const { spacing } = direction;
	if (!isPlain(spacing))
		throw new ZygasterError(
			'setting-out',
			`A turned grid is spaced along the flat face; ${spacing.kind} ${name} cannot be turned. Right would be a count, a module or a list, or a turn of 0°.`
		);
	return layLines({ ...direction, spacing }, length);
}
