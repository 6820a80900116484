import { atan, hypot, sin, tan } from '../../elementary/index.ts';
import { KINDS, type Drawing } from '../../drawing/drawing.ts';
import { ByteWriter } from '../byteWriter.ts';
import type { Sink } from '../sink.ts';

/** Digits after the point, mm; and around the drawing, mm on paper. */
const [DIGITS, MARGIN] = [3, 10];
/** The greatest angle that an arc of a path turns by, radians: somewhat more than a quarter. */
const MOST_ARC = 1.6;

const escaped = (text: string) =>
	text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/**
 * A drawing as SVG 1.1: as large as it is at 1 : `scale`, in units of the building, mm, y downwards. A group a layer; what is
 * outlined is named by `data-mark`. O(points).
 */
export function writeSvg({ title, layers, bounds: [x0, y0, x1, y1] }: Drawing, scale: number, sink: Sink): void {
	const out = new ByteWriter(sink);
	const around = MARGIN * scale;
	const [width, height] = [x1 - x0 + 2 * around, y1 - y0 + 2 * around];
	const number = (value: number) => out.fixed(value, DIGITS);
	const place = (x: number, y: number) => {
		number(x);
		out.text(' ');
		number(-y);
	};
	const arc = (x0: number, y0: number, x1: number, y1: number, bulge: number): void => {
		const [x, y] = [x1 - x0, y1 - y0];
		const angle = 4 * atan(Math.abs(bulge));
		if (angle > MOST_ARC) {
			// In two at its middle: a radius with so many digits does not tell nearly half of a circle well.
			const [mx, my] = [x0 + x / 2 + (bulge * y) / 2, y0 + y / 2 - (bulge * x) / 2];
			arc(x0, y0, mx, my, Math.sign(bulge) * tan(angle / 8));
			arc(mx, my, x1, y1, Math.sign(bulge) * tan(angle / 8));
			return;
		}
		const radius = hypot(x, y) / (2 * sin(angle / 2));
		out.text('A');
		place(radius, -radius);
		// y runs downwards.
		out.text(` 0 0 ${bulge > 0 ? 0 : 1} `);
		place(x1, y1);
	};
	out.text('<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="');
	number(width / scale);
	out.text('mm" height="');
	number(height / scale);
	out.text('mm" viewBox="');
	for (const value of [x0 - around, -y1 - around, width, height]) {
		number(value);
		out.text(' ');
	}
	out.text(`">\n<title>${escaped(title)}, 1 : ${scale}</title>\n`);
	for (const { name, kind, lines, texts } of layers) {
		const { colour, weight } = KINDS[kind];
		out.text(`<g id="${escaped(name)}" fill="none" stroke="${colour}" stroke-width="`);
		number(weight * scale);
		out.text('" stroke-linejoin="round">\n');
		for (const { points, closed, bulges, mark } of lines) {
			out.text(`<path${mark === undefined ? '' : ` data-mark="${escaped(mark)}"`} d="M`);
			place(points[0]!, points[1]!);
			const count = points.length / 2;
			for (let side = 0; side < count - 1 || (closed && bulges?.[side] && side < count); side++) {
				const [from, to] = [side * 2, ((side + 1) % count) * 2];
				if (bulges?.[side]) arc(points[from]!, points[from + 1]!, points[to]!, points[to + 1]!, bulges[side]!);
				else {
					out.text('L');
					place(points[to]!, points[to + 1]!);
				}
			}
			out.text(closed ? 'Z"/>\n' : '"/>\n');
		}
		if (texts.length)
			out.text(`<g fill="${colour}" stroke="none" text-anchor="middle" font-family="'Source Sans 3', sans-serif">\n`);
		for (const { x, y, height: size, text } of texts) {
			out.text('<text x="');
			number(x);
			out.text('" y="');
			// Capitals stand about two thirds of the size of letters high, and half of that below the middle.
			number(-y + size / 2);
			out.text('" font-size="');
			number(size / CAPITALS);
			out.text(`">${escaped(text)}</text>\n`);
		}
		out.text(texts.length ? '</g>\n</g>\n' : '</g>\n');
	}
	out.text('</svg>\n');
	out.finish();
}

/** Height of capitals over the size of letters (practice). */
const CAPITALS = 0.66;
