import { ByteWriter } from '../byteWriter.ts';

/** A text as ISO 10303-21 writes it: quotes and backslashes twice, what is not plain ASCII by its code (UTF-16). */
export function stepText(text: string): string {
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
	const [mantissa, exponent] = text.split('e') as [string, string?];
	const real = mantissa.includes('.') ? mantissa : `${mantissa}.`;
	return exponent === undefined ? real : `${real}E${exponent}`;
}

/** Writes the instances of an exchange file one after the other, numbered from 1. Source: ISO 10303-21. */
export class StepWriter {
	private last = 0;
	readonly out: ByteWriter;

	constructor(out: ByteWriter) {
		this.out = out;
	}

	/** Writes an instance; answers its name, such as `#12`. Values are written as they are given. */
	add(type: string, ...values: readonly string[]): string {
		const name = `#${++this.last}`;
		this.out.text(`${name}=${type}(${values.join(',')});\n`);
		return name;
	}

	/** Begins an instance whose values are written by hand, up to `);`; answers its name. */
	begin(type: string): string {
		const name = `#${++this.last}`;
		this.out.text(`${name}=${type}(`);
		return name;
	}
}

/** A list of values. */
export const stepList = (values: readonly string[]): string => `(${values.join(',')})`;
