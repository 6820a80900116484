import { hypot } from '../../elementary/index.ts';
import { KINDS, type Drawing } from '../../drawing/drawing.ts';
import type { Sink } from '../sink.ts';
import { DxfWriter, plain } from './dxfWriter.ts';

/** A drawing as DXF, release 12 (the one that everything reads): outlines as polylines, with arcs where they have some, or circles; texts in their middles, mm. O(points). */
export function writeDxf({ layers, bounds: [x0, y0, x1, y1] }: Drawing, sink: Sink): void {
	const out = new DxfWriter(sink);
	out.head(
		[x0, y0, 0],
		[x1, y1, 0],
		layers.map(({ name, kind }) => ({ name, colour: KINDS[kind].index }))
	);
	for (const { name, lines, texts } of layers) {
		for (const { points, closed, bulges } of lines) {
			if (points.length === 4 && bulges) {
				// Two halves: holes that are drilled are known by being circles.
				const [x0, y0, x1, y1] = points as [number, number, number, number];
				out.entity('CIRCLE', name);
				out.point((x0 + x1) / 2, (y0 + y1) / 2);
				out.pair(40, hypot(x1 - x0, y1 - y0) / 2);
				continue;
			}
			if (points.length === 4) {
				out.entity('LINE', name);
				out.point(points[0]!, points[1]!);
				out.point(points[2]!, points[3]!, 0, 11);
				continue;
			}
			out.entity('POLYLINE', name);
			out.count(66, 1);
			out.point(0, 0);
			out.count(70, closed ? 1 : 0);
			for (let k = 0; k < points.length; k += 2) {
				out.entity('VERTEX', name);
				out.point(points[k]!, points[k + 1]!);
				if (bulges?.[k / 2]) out.bulge(bulges[k / 2]!);
			}
			out.entity('SEQEND', name);
		}
		for (const { x, y, height, text } of texts) {
			out.entity('TEXT', name);
			out.point(x, y);
			out.pair(40, height);
			out.pair(1, plain(text));
			// In its middle, across and up.
			out.count(72, 1);
			out.point(x, y, 0, 11);
			out.count(73, 2);
		}
	}
	out.end();
}
