import { wrap } from 'comlink';
import { MOST_FILE_BYTES } from '../../core/formats/modelFiles/detect.ts';
import type { ModuleMesh } from '../../core/project/schema.ts';
import { sendContents, takenIn } from '../worker/contents.ts';
import type { ImportWorkerApi } from '../worker/import.worker.ts';

/** A model file as a mesh for modules, whose contents the server has then. Throws an Error in the user's words. */
export async function readModule(file: File): Promise<Omit<ModuleMesh, 'id'>> {
	if (file.size > MOST_FILE_BYTES)
		throw new Error(
			`“${file.name}” has ${Math.round(file.size / 2 ** 20)} MB; at most ${MOST_FILE_BYTES / 2 ** 20} MB are read.`
		);
	const worker = new Worker(new URL('../worker/import.worker.ts', import.meta.url), { type: 'module' });
	try {
		const answer = await wrap<ImportWorkerApi>(worker).module(file.name, new Uint8Array(await file.arrayBuffer()));
		if ('error' in answer) throw new Error(answer.error);
		const mesh = takenIn(answer.value);
		await sendContents([mesh.positions, mesh.triangles]);
		return mesh;
	} finally {
		worker.terminate();
	}
}
