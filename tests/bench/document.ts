// What an edit costs where it is made: part of `npm run bench`.
import { bytesOfArray, keepContent } from '../../src/core/content.ts';
import { changeProject, changeWithPatches } from '../../src/core/project/patch.ts';
import { checkDocument } from '../../src/core/project/read.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { paintZone } from '../../src/lib/editor/zones.ts';
import { ProjectReceiver } from '../../src/lib/worker/projectReceiver.ts';
import { ProjectSender } from '../../src/lib/worker/projectSender.ts';
import { vaults } from './spine.ts';

const RUNS = 15;
const now = () => performance.now();
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Median time of an edit, the first ones left out. */
function timeOf(edit: (run: number) => void): number {
	const times: number[] = [];
	for (let run = 0; run < RUNS; run++) {
		const start = now();
		edit(run);
		times.push(now() - start);
	}
	return median(times.slice(5));
}

/** One step of dragging a number in a project of 200 faces with 40 MB of meshes: the change, its check, and the patch for the worker. */
function drag(): { step: number; bytes: number } {
	const project = vaults(200, 4, 4);
	const mesh = {
		positions: keepContent(bytesOfArray(new Float32Array(5_000_000))),
		triangles: keepContent(bytesOfArray(new Uint32Array(5_000_000)))
	};
	project.references = [{ id: 'ground', name: 'Ground', hidden: false, ...mesh }];
	const accepted = checkDocument(project);
	const [sender, receiver] = [new ProjectSender(), new ProjectReceiver()];
	receiver.take(sender.update(accepted));
	let bytes = 0;
	const step = timeOf((run) => {
		const shown = changeProject(accepted, (draft) => (draft.masses[77]!.frame.x += run));
		const update = sender.update(shown);
		bytes = JSON.stringify(update).length;
		receiver.take(structuredClone(update));
	});
	return { step, bytes };
}

/** A zone of 20,000 runs, and one more cell painted: the commit, with its patches there and back. */
function paint(): number {
	const project = vaults(1, 4, 4);
	const runs = Array.from({ length: 20_000 }, (_, k): [number, number, number] => [k, 0, 5]);
	project.zones = [{ id: 'zone', name: 'Zone', colour: '#2B7A73', parts: [{ face: 'mass-0/skin', runs }] }];
	let shown: Project = checkDocument(project);
	return timeOf((run) => {
		shown = changeWithPatches(shown, (draft) =>
			paintZone(draft, 'zone', 'mass-0/skin', [{ row: run * 100, column: 9 }], false)
		).project;
	});
}

export function benchDocument(): void {
	console.log('\nWhat an edit costs where it is made');
	const { step, bytes } = drag();
	console.log(
		`one step of dragging a number, 200 faces and 40 MB of meshes  ${step.toFixed(1)} ms (8), ${bytes} bytes to the worker`
	);
	console.log(`one more cell in a zone of 20,000 runs, committed             ${paint().toFixed(1)} ms (20)`);
}
