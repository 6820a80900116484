import { ByteWriter } from '../byteWriter.ts';

/** Texts without anything that is written otherwise. */
const PLAIN = /^[ -&(-[\]-~]*$/;

/** A text as ISO 10303-21 writes it: quotes and backslashes twice, what is not plain ASCII by its code (UTF-16). */
export function stepText(text: string): string {
	if (PLAIN.test(text)) return `'${text}'`;
	let out = '';
	for (let k = 0; k < text.length; k++) {
		const code = text.charCodeAt(k);
		if (code === 39) out += "''";
		else if (code === 92) out += '\\\\';
		else if (code >= 32 && code < 127) out += text[k]!;
		else {
			let codes = '';
			for (; k < text.length; k++) {
				const next = text.charCodeAt(k);
				if (next >= 32 && next < 127) break;
				codes += next.toString(16).toUpperCase().padStart(4, '0');
			}
			k--;
			out += `\\X2\\${codes}\\X0\\`;
		}
	}
	return `'${out}'`;
}

/** A number as ISO 10303-21 writes reals: always with a point. */
export function stepReal(value: number): string {
	const text = String(value);
	const e = text.indexOf('e');
	if (e < 0) return text.includes('.') ? text : `${text}.`;
	const mantissa = text.slice(0, e);
	return `${mantissa.includes('.') ? mantissa : `${mantissa}.`}E${text.slice(e + 1)}`;
}

declare const instance: unique symbol;
/** An instance of an exchange file, by its number. */
export type Instance = number & { readonly [instance]: true };
/** A value of an instance: text as it is to stand there, another instance, or a list of such. */
export type StepValue = string | Instance | readonly Instance[];

const [NUMBER, OPEN, CLOSE, COMMA, EQUALS] = [35, 40, 41, 44, 61];

/** Writes the instances of an exchange file one after the other, numbered from 1. Source: ISO 10303-21. */
export class StepWriter {
	private last = 0;
	readonly out: ByteWriter;

	constructor(out: ByteWriter) {
		this.out = out;
	}

	/** Writes an instance; answers it. */
	add(type: string, ...values: readonly StepValue[]): Instance {
		const made = this.begin(type);
		this.finish(values, 0);
		return made;
	}

	/** Writes the values of an instance from the one numbered `first`, and ends it. */
	protected finish(values: readonly StepValue[], first: number): void {
		const { out } = this;
		// Piece by piece: to join them first takes longer than to write them.
		for (let k = 0; k < values.length; k++) {
			if (first + k > 0) out.ascii(COMMA);
			const value = values[k]!;
			if (typeof value === 'string') out.text(value);
			else if (typeof value === 'number') this.name(value);
			else this.list(value);
		}
		out.text(');\n');
	}

	/** Begins an instance whose values are written by hand, up to `);`; answers it. */
	begin(type: string): Instance {
		const made = ++this.last as Instance;
		const { out } = this;
		this.name(made);
		out.ascii(EQUALS);
		out.text(type);
		out.ascii(OPEN);
		return made;
	}

	/** Writes the name of an instance, such as `#12`. */
	name(of: Instance): void {
		const { out } = this;
		out.ascii(NUMBER);
		out.whole(of);
	}

	private list(of: readonly Instance[]): void {
		const { out } = this;
		out.ascii(OPEN);
		for (let k = 0; k < of.length; k++) {
			if (k > 0) out.ascii(COMMA);
			this.name(of[k]!);
		}
		out.ascii(CLOSE);
	}
}

/** An instance within a text, such as `#12`. */
export const stepName = (of: Instance): string => `#${of}`;

/** A list of values. */
export const stepList = (values: readonly string[]): string => `(${values.join(',')})`;
