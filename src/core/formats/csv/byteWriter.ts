const FIRST_SIZE = 1 << 16;

/** Grows a byte array and writes text and fixed-point numbers into it without making strings. */
export class ByteWriter {
	private bytes = new Uint8Array(FIRST_SIZE);
	private length = 0;

	/** Text as UTF-8. */
	text(text: string): void {
		this.reserve(text.length * 3);
		for (const character of text) {
			const code = character.codePointAt(0)!;
			if (code < 0x80) this.bytes[this.length++] = code;
			else this.multibyte(code);
		}
	}

	/** One ASCII character. */
	ascii(code: number): void {
		this.reserve(1);
		this.bytes[this.length++] = code;
	}

	/** A whole number of at least `digits` digits, padded with zeros. */
	whole(value: number, digits = 1): void {
		this.reserve(32);
		let end = this.length + digits;
		for (let power = 10 ** digits; power <= value; power *= 10) end++;
		this.length = end;
		let rest = value;
		while (digits-- > 0 || rest > 0) {
			const next = Math.floor(rest / 10);
			this.bytes[--end] = 48 + (rest - next * 10);
			rest = next;
		}
	}

	/** A number with `decimals` digits after the point, rounded half up from its size; nothing for NaN. */
	fixed(value: number, decimals: number): void {
		if (Number.isNaN(value)) return;
		const scale = 10 ** decimals;
		const scaled = Math.round(Math.abs(value) * scale);
		if (value < 0 && scaled > 0) this.ascii(45);
		if (decimals === 0) return this.whole(scaled);
		const before = Math.floor(scaled / scale);
		this.whole(before);
		this.ascii(46);
		this.whole(scaled - before * scale, decimals);
	}

	/** The bytes written so far, in an array of their own. */
	finish(): Uint8Array<ArrayBuffer> {
		return this.bytes.slice(0, this.length);
	}

	private multibyte(code: number): void {
		const tail = code < 0x800 ? 1 : code < 0x10000 ? 2 : 3;
		const lead = [0, 0xc0, 0xe0, 0xf0][tail]!;
		this.bytes[this.length++] = lead | (code >> (6 * tail));
		for (let k = tail - 1; k >= 0; k--)
			this.bytes[this.length++] = 0x80 | ((code >> (6 * k)) & 0x3f);
	}

	private reserve(more: number): void {
		if (this.length + more <= this.bytes.length) return;
		const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + more));
		larger.set(this.bytes);
		this.bytes = larger;
	}
}
