import { contentNameOf, contentOf, hasContent, takeContent, trustContent } from '../../core/content.ts';

const addressOf = (name: string) => `/api/contents/${name}`;

/** What a worker has made, with the contents that it names. */
export interface WithContents<T> {
	readonly of: T;
	readonly contents: readonly (readonly [name: string, bytes: Uint8Array<ArrayBuffer>])[];
}

/** Something with copies of the contents that it names, to be sent to another thread. */
export const withContents = <T>(of: T, names: readonly string[]): WithContents<T> => ({
	of,
	contents: names.map((name) => [name, contentOf(name).slice() as Uint8Array<ArrayBuffer>] as const)
});

/** What came from a worker of one's own; its contents are here from then on. */
export function takenIn<T>({ of, contents }: WithContents<T>): T {
	for (const [name, bytes] of contents) trustContent(name, bytes);
	return of;
}

/** The name of bytes, worked out beside this thread where the browser can (only on pages that are served securely). */
async function nameOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
	const subtle = crypto.subtle as SubtleCrypto | undefined;
	if (!subtle) return contentNameOf(bytes);
	const digest = new Uint8Array(await subtle.digest('SHA-256', bytes));
	return `sha256:${[...digest].map((b) => b.toString(16).padStart(2, '0')).join('')}`;
}

/** Fetches those contents that are not here. One that cannot be had is left out: what needs it says so. */
export async function loadContents(names: readonly string[]): Promise<void> {
	await Promise.all(
		names
			.filter((name) => !hasContent(name))
			.map(async (name) => {
				const response = await fetch(addressOf(name)).catch(() => undefined);
				if (!response?.ok) return;
				try {
					const bytes = new Uint8Array(await response.arrayBuffer());
					if ((await nameOf(bytes)) === name) trustContent(name, bytes);
					else takeContent(name, bytes);
				} catch {
					// Damaged or cut off: told where it is needed, as what is missing is.
				}
			})
	);
}

/** Sends contents to the server, where they are not there yet; `progress` hears the share done. Throws an Error in the user's words. */
export async function sendContents(names: readonly string[], progress?: (share: number) => void): Promise<void> {
	for (const [k, name] of names.entries()) {
		progress?.(k / names.length);
		try {
			if ((await fetch(addressOf(name), { method: 'HEAD' })).ok) continue;
			const response = await fetch(addressOf(name), {
				method: 'PUT',
				headers: { 'content-type': 'application/octet-stream' },
				body: contentOf(name).slice()
			});
			if (!response.ok)
				throw new Error(((await response.json()) as { message?: string }).message ?? response.statusText);
		} catch (cause) {
			const why = cause instanceof TypeError ? 'The server cannot be reached.' : (cause as Error).message;
			throw new Error(`Meshes are sent to the server before they are part of the project. ${why}`, { cause });
		}
	}
}
