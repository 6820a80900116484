import { Zip, ZipDeflate } from 'fflate';
import type { Sink } from '../sink.ts';

/** The first day that archives know: the same files, the same bytes. */
const STAMP = '1980-01-01T00:00:00Z';

/** A ZIP archive that goes into a sink as its files come, one after the other. */
export class Archive {
	private readonly zip: Zip;
	private readonly level: 3 | 6;

	constructor(sink: Sink, level: 3 | 6 = 6) {
		this.level = level;
		this.zip = new Zip((fault, chunk) => {
			if (fault) throw fault;
			sink(chunk as Uint8Array<ArrayBuffer>);
		});
	}

	/** A file to be pushed piece after piece; the last one says so. */
	file(name: string): ZipDeflate {
		const file = new ZipDeflate(name, { level: this.level });
		file.mtime = STAMP;
		this.zip.add(file);
		return file;
	}

	end(): void {
		this.zip.end();
	}
}
