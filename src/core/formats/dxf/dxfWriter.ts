import { ByteWriter } from '../byteWriter.ts';
import type { Sink } from '../sink.ts';

/** Digits after the point, mm. */
const DIGITS = 4;
/** Of bulges: a billionth of a radius of 100 m is nothing. */
const BULGE_DIGITS = 9;

/** Letters that this release of the format has not are written by their codes. */
export const plain = (text: string) =>
	text.replace(/[^\x20-\x7e]/g, (c) => `\\U+${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`);

/** Names of layers hold letters, digits, hyphens and low lines, 31 at most. */
const layerName = (name: string) => name.replace(/[^A-Za-z0-9_-]/g, '_').slice(0, 31);

/** Writes DXF, release 12, entity by entity. */
export class DxfWriter {
	private readonly out: ByteWriter;

	constructor(sink: Sink) {
		this.out = new ByteWriter(sink);
	}

	/** A group: its code, and a text or a length. */
	pair(code: number, value: string | number): void {
		const { out } = this;
		out.text(`${String(code).padStart(3)}\n`);
		if (typeof value === 'string') out.text(value);
		else out.fixed(value, DIGITS);
		out.text('\n');
	}

	/** The tangent of a quarter of the angle of the arc that begins at a vertex. */
	bulge(value: number): void {
		this.pair(42, value.toFixed(BULGE_DIGITS));
	}

	/** A group with a whole number. */
	count(code: number, value: number): void {
		this.pair(code, String(value));
	}

	/** A point, by the codes that begin with `first`. */
	point(x: number, y: number, z = 0, first = 10): void {
		this.pair(first, x);
		this.pair(first + 10, y);
		this.pair(first + 20, z);
	}

	/** Begins an entity on a layer. */
	entity(type: string, layer: string): void {
		this.pair(0, type);
		this.pair(8, layerName(layer));
	}

	/** What stands before the entities: how far all of it reaches, and the layers with their colours (numbers of the format). */
	head(
		least: readonly [number, number, number],
		most: readonly [number, number, number],
		layers: readonly { readonly name: string; readonly colour: number }[]
	): void {
		this.pair(999, 'Zygaster, lengths in mm');
		this.section('HEADER');
		this.pair(9, '$ACADVER');
		this.pair(1, 'AC1009');
		for (const [name, at] of [
			['$EXTMIN', least],
			['$EXTMAX', most]
		] as const) {
			this.pair(9, name);
			this.point(...at);
		}
		this.pair(0, 'ENDSEC');
		this.section('TABLES');
		this.pair(0, 'TABLE');
		this.pair(2, 'LAYER');
		this.count(70, layers.length);
		for (const { name, colour } of layers) {
			this.pair(0, 'LAYER');
			this.pair(2, layerName(name));
			this.count(70, 0);
			this.count(62, colour);
			this.pair(6, 'CONTINUOUS');
		}
		this.pair(0, 'ENDTAB');
		this.pair(0, 'ENDSEC');
		this.section('ENTITIES');
	}

	private section(name: string): void {
		this.pair(0, 'SECTION');
		this.pair(2, name);
	}

	end(): void {
		this.pair(0, 'ENDSEC');
		this.pair(0, 'EOF');
		this.out.finish();
	}
}
