import { writeCsv } from '../../../core/formats/csv/writeCsv.ts';
import { writeGlb } from '../../../core/formats/glb/writeGlb.ts';
import { writeJson } from '../../../core/formats/json/writeJson.ts';
import { solidsLoader } from '../../../core/kit/solids.ts';
import { Memo } from '../../../core/project/memo.ts';
import { runPipeline } from '../../../core/project/pipeline.ts';
import type { Project } from '../../../core/project/schema.ts';
import type { HandoverFormat } from './formats.ts';

const solids = solidsLoader(() => import('manifold-3d'));

export interface WriteTask {
	readonly project: Project;
	readonly format: HandoverFormat;
	/** Progress from 0 to 1 is posted here. */
	readonly port: { postMessage(progress: number): void };
}

/** Makes one file of the handover; run in a thread of its own. */
export default async function writeFile({ project, format, port }: WriteTask): Promise<Uint8Array> {
	if (format === 'json') return new TextEncoder().encode(writeJson(project));
	const model = await runPipeline(project, {
		memo: new Memo(),
		now: () => performance.now(),
		solids,
		progress: (done, of) => port.postMessage((0.8 * done) / of)
	});
	return format === 'csv' ? writeCsv(model.schedule) : writeGlb(project, model);
}
