import { isBar } from '../../placement/place.ts';
import type { Model } from '../../project/pipeline.ts';
import type { Project } from '../../project/schema.ts';
import { cutList, type Stock } from '../../schedule/cutList.ts';
import { eachPiece, type PieceWords } from '../pieceRows.ts';
import type { Sink } from '../sink.ts';
import { ByteWriter } from '../byteWriter.ts';
import { LENGTHS, type TableUnit } from '../../units/tableUnits.ts';
import { quote } from './writeTable.ts';

interface Bar extends Pick<PieceWords, 'mark' | 'type'> {
	readonly length: number;
}

/**
 * Which pieces are cut from which delivered bar, a row a piece, each profile by itself: RFC 4180. Pieces that are longer than
 * any delivered bar are listed as such.
 */
export function writeCutList(project: Project, model: Model, stock: Stock, sink: Sink, units: TableUnit): void {
	const profiles = new Map<string, { words: readonly string[]; bars: Bar[] }>();
	eachPiece(project, model, (words, table, r) => {
		if (!isBar(table.parts[table.part[r]!]!.part)) return;
		const { kit, part, material, mark, type } = words;
		const key = [kit, part, material].join('\n');
		const profile = profiles.get(key) ?? { words: [kit, part, material], bars: [] };
		profiles.set(key, profile);
		profile.bars.push({ mark, type, length: table.columns.length![r]! });
	});
	const out = new ByteWriter(sink);
	const { unit, per, digits } = LENGTHS[units].length;
	out.text(`Bar,Delivered${unit},Rest${unit},Kit,Part,Material,Mark,Type,Length${unit}\r\n`);
	let number = 0;
	for (const { words, bars } of profiles.values()) {
		const { bars: cut, tooLong } = cutList(
			bars.map((b) => b.length),
			stock
		);
		const rest = words.map(quote).join(',');
		for (const { length, pieces, rest: left } of cut) {
			number++;
			for (const k of pieces) {
				out.text(`${number},`);
				out.fixed(length / per, 1 + digits);
				out.text(',');
				out.fixed(left / per, 1 + digits);
				out.text(`,${rest},${quote(bars[k]!.mark)},${bars[k]!.type},`);
				out.fixed(bars[k]!.length / per, 1 + digits);
				out.text('\r\n');
			}
		}
		// They have to be put together, or bought in other lengths: nothing is left out.
		for (const k of tooLong) {
			out.text(`too long,,,${rest},${quote(bars[k]!.mark)},${bars[k]!.type},`);
			out.fixed(bars[k]!.length / per, 1 + digits);
			out.text('\r\n');
		}
	}
	out.finish();
}
