import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { HOST_TABLES, HOST_WORDS, markOf } from '../../schedule/faceTable.ts';
import { cornersOn } from '../../schedule/hostCorners.ts';
import { eachPiece } from '../pieceRows.ts';
import { readingsOf } from '../../readings/faceReadings.ts';
import { cellMark, cellsAround, hostSuffix, nodeOwner } from '../../tiling/marks.ts';
import type { Sink } from '../sink.ts';
import { ByteWriter } from '../byteWriter.ts';
import { LENGTHS, type TableUnit } from '../../units/tableUnits.ts';
import { quote } from './writeTable.ts';

const COMMA = 44;
const LINE_END = '\r\n';
/** Digits after the point of coordinates in mm; what is built is never set out finer. */
const COORDINATE_DIGITS = 2;
/** Digits of unit vectors. */
const NORMAL_DIGITS = 6;

/** A row a piece, with all that tells it: RFC 4180. O(pieces). */
export function writeParts(project: Project, model: Model, sink: Sink, units: TableUnit): void {
	const out = new ByteWriter(sink);
	const { length, area } = LENGTHS[units];
	out.text(
		['Mark', 'Host kind', 'Host mark', 'Face', 'Rule', 'Kit', 'Part', 'Role', 'Material', 'Type', 'Piece']
			.concat(`Length${length.unit}`, `Area${area.unit}`, 'Volume m3', 'Weight kg', 'Towards')
			.join(',') + LINE_END
	);
	eachPiece(project, model, (w, { columns }, r) => {
		const words = [w.mark, w.hostKind, w.hostMark, w.face, w.rule, w.kit, w.part, w.role, w.material, w.type];
		out.text(words.map(quote).join(','));
		for (const [value, decimals] of [
			[columns.piece![r]!, 0],
			[columns.length![r]! / length.per, 2 + length.digits],
			[columns.area![r]! / area.per, 4 + area.digits],
			[columns.volume![r]! / 1e9, 6],
			[columns.weight![r]!, 3]
		] as const) {
			out.ascii(COMMA);
			out.fixed(value, decimals);
		}
		out.text(`,${quote(w.towards)}${LINE_END}`);
	});
	out.finish();
}

/**
 * The corners of everything that kits stand on, in the order in which kits see them and none twice, a row a host:
 * mark, kind, face, how many, and their coordinates to the east, to the north and up. O(corners).
 */
export function writeCorners({ faces }: Model, sink: Sink, units: TableUnit): void {
	const out = new ByteWriter(sink);
	const { unit, per, digits } = LENGTHS[units].length;
	const hosts = faces.flatMap((face) =>
		HOST_TABLES.flatMap((name) => {
			const { count } = face.schedule.tables[name];
			if (count === 0) return [];
			const corners = cornersOn(face, name);
			return Array.from({ length: count }, (_, r) => ({
				face,
				name,
				r,
				position: corners.position,
				points: corners.of(r)
			}));
		})
	);
	const most = hosts.reduce((n, { points }) => Math.max(n, points.length), 0);
	const heads = Array.from({ length: most }, (_, k) => ['X', 'Y', 'Z'].map((axis) => `${axis}${k + 1}${unit}`)).flat();
	out.text(['Mark', 'Host kind', 'Face', 'Corners', ...heads].join(',') + LINE_END);
	for (const { face, name, r, position, points } of hosts) {
		out.text([markOf(face.schedule, name, r), HOST_WORDS[name], face.name].map(quote).join(','));
		out.text(`,${points.length}`);
		for (const p of points)
			for (let c = 0; c < 3; c++) {
				out.ascii(COMMA);
				out.fixed(position[p * 3 + c]! / per, COORDINATE_DIGITS + digits);
			}
		out.text(','.repeat(3 * (most - points.length)) + LINE_END);
	}
	out.finish();
}

/** Every node that cells have, for setting out: its mark, where it is and where the face looks there. O(nodes log nodes). */
export function writeNodes({ faces }: Model, sink: Sink, units: TableUnit): void {
	const out = new ByteWriter(sink);
	const { unit, per, digits } = LENGTHS[units].length;
	const heads = ['X', 'Y', 'Z'].map((axis) => axis + unit).concat('Normal x', 'Normal y', 'Normal z');
	out.text(['Mark', 'Face', 'Kit', ...heads, 'Valence', 'Pieces', 'Weight kg'].join(',') + LINE_END);
	for (const face of faces) {
		const { nodes, cells, schedule, mark } = face;
		const { tables, template } = schedule;
		const measured = readingsOf(face);
		const valence = measured.column('node.valence');
		const used = [...valence.keys()].filter((n) => valence[n]! > 0);
		const around = cellsAround(cells, new Set(used));
		const source = { ...cells, mark, template };
		const { row, column } = face.readings.columns;
		const named = used
			.flatMap((node) => {
				const owners = around.get(node);
				return owners ? [{ node, ...nodeOwner(cells, node, owners) }] : [];
			})
			.sort(
				(a, b) => row[a.cell]! - row[b.cell]! || column[a.cell]! - column[b.cell]! || a.cell - b.cell || a.at - b.at
			);
		const table = tables.nodes;
		const kit = table.words.kit!;
		for (const { node, cell, at } of named) {
			const r = table.rowOf[node] ?? -1;
			const words = [
				cellMark(source, cell) + hostSuffix('node', at),
				face.name,
				r < 0 ? '' : kit.words[kit.index[r]!]!
			];
			out.text(words.map(quote).join(','));
			for (const [list, by, decimals] of [
				[nodes.position, per, COORDINATE_DIGITS + digits],
				[nodes.normal, 1, NORMAL_DIGITS]
			] as const)
				for (let c = 0; c < 3; c++) {
					out.ascii(COMMA);
					out.fixed(list[node * 3 + c]! / by, decimals);
				}
			for (const [value, decimals] of [
				[valence[node]!, 0],
				[r < 0 ? 0 : table.columns.pieces![r]!, 0],
				[r < 0 ? 0 : table.columns.weight![r]!, 2]
			] as const) {
				out.ascii(COMMA);
				out.fixed(value, decimals);
			}
			out.text(LINE_END);
		}
	}
	out.finish();
}
