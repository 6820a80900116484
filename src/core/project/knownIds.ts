import type { Operation } from './jsonPatch.ts';

/** Which element of a list stands where, as far as the tests of a patch have told by now. */
export class KnownIds {
	private readonly ids = new Map<string, string>();

	at(path: string): string | undefined {
		return this.ids.get(path);
	}

	learn(path: string, id: string): void {
		this.ids.set(path, id);
	}

	/** Forgets what an operation may have made untrue. */
	forget(operation: Operation): void {
		if (operation.op === 'test') return;
		this.forgetAt(operation.path, operation.op !== 'replace');
		if (operation.op === 'move') this.forgetAt(operation.from, true);
	}

	private forgetAt(path: string, others: boolean): void {
		// What is put in or taken out of a list moves what stands behind it.
		const holder = path.slice(0, path.lastIndexOf('/'));
		const gone = others && /\/(\d+|-)$/.test(path) ? `${holder}/` : path;
		for (const known of this.ids.keys()) if (known.startsWith(gone)) this.ids.delete(known);
	}
}
