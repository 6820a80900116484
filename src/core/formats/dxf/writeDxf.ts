import { KINDS, type Drawing } from '../../drawing/drawing.ts';
import { ByteWriter } from '../byteWriter.ts';
import type { Sink } from '../sink.ts';

/** Digits after the point, mm. */
const DIGITS = 4;

/** Letters that this release of the format has not are written by their codes. */
const plain = (text: string) =>
	text.replace(/[^\x20-\x7e]/g, (c) => `\\U+${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`);

/** Names of layers hold letters, digits, hyphens and low lines, 31 at most. */
const layerName = (name: string) => name.replace(/[^A-Za-z0-9_-]/g, '_').slice(0, 31);

/** A drawing as DXF, release 12 (the one that everything reads): outlines as polylines, texts in their middles, mm. O(points). */
export function writeDxf({ layers, bounds: [x0, y0, x1, y1] }: Drawing, sink: Sink): void {
	const out = new ByteWriter(sink);
	const pair = (code: number, value: string | number) => {
		out.text(`${String(code).padStart(3)}\n`);
		if (typeof value === 'string') out.text(value);
		else out.fixed(value, DIGITS);
		out.text('\n');
	};
	const count = (code: number, value: number) => pair(code, String(value));
	const point = (x: number, y: number, first = 10) => {
		pair(first, x);
		pair(first + 10, y);
		pair(first + 20, 0);
	};
	pair(999, 'Zygaster, lengths in mm');
	pair(0, 'SECTION');
	pair(2, 'HEADER');
	for (const [name, values] of [
		['$ACADVER', []],
		['$EXTMIN', [x0, y0]],
		['$EXTMAX', [x1, y1]]
	] as const) {
		pair(9, name);
		if (values.length) point(values[0], values[1]);
		else pair(1, 'AC1009');
	}
	pair(0, 'ENDSEC');
	pair(0, 'SECTION');
	pair(2, 'TABLES');
	pair(0, 'TABLE');
	pair(2, 'LAYER');
	count(70, layers.length);
	for (const { name, kind } of layers) {
		pair(0, 'LAYER');
		pair(2, layerName(name));
		count(70, 0);
		count(62, KINDS[kind].index);
		pair(6, 'CONTINUOUS');
	}
	pair(0, 'ENDTAB');
	pair(0, 'ENDSEC');
	pair(0, 'SECTION');
	pair(2, 'ENTITIES');
	for (const { name, lines, texts } of layers) {
		const layer = layerName(name);
		for (const { points, closed } of lines) {
			if (points.length === 4) {
				pair(0, 'LINE');
				pair(8, layer);
				point(points[0]!, points[1]!);
				point(points[2]!, points[3]!, 11);
				continue;
			}
			pair(0, 'POLYLINE');
			pair(8, layer);
			count(66, 1);
			point(0, 0);
			count(70, closed ? 1 : 0);
			for (let k = 0; k < points.length; k += 2) {
				pair(0, 'VERTEX');
				pair(8, layer);
				point(points[k]!, points[k + 1]!);
			}
			pair(0, 'SEQEND');
			pair(8, layer);
		}
		for (const { x, y, height, text } of texts) {
			pair(0, 'TEXT');
			pair(8, layer);
			point(x, y);
			pair(40, height);
			pair(1, plain(text));
			// In its middle, across and up.
			count(72, 1);
			point(x, y, 11);
			count(73, 2);
		}
	}
	pair(0, 'ENDSEC');
	pair(0, 'EOF');
	out.finish();
}
