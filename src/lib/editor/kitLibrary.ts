import { checkKitFile, type KitFile } from '../../core/project/kitFile.ts';

/** A kit that the user keeps for other projects. */
export interface KeptKit {
	readonly id: string;
	readonly name: string;
}

async function ask(path: string, init?: RequestInit): Promise<unknown> {
	const response = await fetch(path, init).catch(() => {
		throw new Error('The server cannot be reached.');
	});
	const body: unknown = response.status === 204 ? undefined : await response.json().catch(() => undefined);
	if (!response.ok)
		throw new Error((body as { message?: string } | undefined)?.message ?? `The server answered ${response.status}.`);
	return body;
}

/** The user's library. All of these throw an Error in the user's words. */
export const listKept = async () => (await ask('/api/kits')) as KeptKit[];
export const keepKit = (file: KitFile) =>
	ask('/api/kits', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(file) });
export const loadKept = async (id: string) => checkKitFile(await ask(`/api/kits/${id}`));
export const dropKept = (id: string) => ask(`/api/kits/${id}`, { method: 'DELETE' });
