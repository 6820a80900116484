import type { Sink } from '../sink.ts';
import { ByteWriter } from '../byteWriter.ts';
import { quote } from '../csv/writeTable.ts';
import type { PieceChange, PieceState } from './comparePieces.ts';

const LINE_END = '\r\n';
/** What changes are called, and how what was and is are written. */
const WHAT: Readonly<Record<string, readonly [string, (piece: PieceState) => string]>> = {
	kit: ['Kit', (p) => p.kit],
	rule: ['Rule', (p) => p.rule],
	role: ['Role', (p) => p.role],
	material: ['Material', (p) => p.material],
	length: ['Length mm', (p) => p.length.toFixed(2)],
	area: ['Area m2', (p) => (p.area / 1e6).toFixed(4)],
	weight: ['Weight kg', (p) => p.weight.toFixed(3)],
	at: ['Place mm', (p) => p.at.map((x) => x.toFixed(1)).join(' ')],
	mark: ['Mark', (p) => p.mark]
};

/** What of a piece is another now, in words: what, as it was, as it is. */
export const writtenChanges = ({ before, after, what }: PieceChange): [string, string, string][] =>
	what.map((name) => {
		const [label, print] = WHAT[name]!;
		return [label, print(before!), print(after!)];
	});

/** What has changed, a row for each thing of each piece; pieces that are new or gone have one. RFC 4180. O(changes). */
export function writeChanges(changes: readonly PieceChange[], sink: Sink): void {
	const out = new ByteWriter(sink);
	out.text(
		['Change', 'Mark', 'Host kind', 'Face', 'Kit', 'Part', 'What', 'Before', 'After', 'Key'].join(',') + LINE_END
	);
	for (const change of changes) {
		const { kind, before, after } = change;
		const piece = (after ?? before)!;
		const row = (...cells: [string, string, string]) =>
			out.text(
				[kind, piece.mark, piece.hostKind, piece.face, piece.kit, piece.part, ...cells, piece.key]
					.map(quote)
					.join(',') + LINE_END
			);
		const written = writtenChanges(change);
		if (written.length === 0) row('', '', '');
		for (const cells of written) row(...cells);
	}
	out.finish();
}
