// What grows with the change and what with the model: part of `npm run bench`.
import { ArrayPool } from '../../src/core/arrays.ts';
import { kitSchema } from '../../src/core/kit/schema.ts';
import { PRESETS } from '../../src/core/mass/presets.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { newMass } from '../../src/core/project/newMass.ts';
import { runPipeline } from '../../src/core/project/pipeline.ts';
import { faceKey, type Project } from '../../src/core/project/schema.ts';
import { emptyProject } from '../../src/core/project/starter.ts';
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { openingSchema } from '../../src/core/tiling/openings/schema.ts';
import { buffersIn } from '../../src/core/view/buffers.ts';
import type { ModelUpdate, ModelView } from '../../src/core/view/modelView.ts';
import { received } from '../../src/core/view/received.ts';
import { ModelLayer } from '../../src/lib/stage/modelLayer.ts';
import { PLAIN_LOOK } from '../unit/stage/look.ts';
import { ModelHost } from '../../src/lib/worker/modelHost.ts';

const RUNS = 7;
const now = () => performance.now();
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Size of a cell, mm. */
const CELL = 1500;

/** So many vaults side by side, each with so many fields and a framed pane on each. */
export function vaults(count: number, across: number, up: number): Project {
	const project = emptyProject('Bench');
	for (let k = 0; k < count; k++) {
		const shape = structuredClone(PRESETS.vault);
		shape.length = CELL * up;
		for (const section of shape.sections) section.span = CELL * across;
		const mass = newMass(shape, [], { id: `mass-${k}`, name: `Mass ${k}`, marks: [] });
		mass.frame.x = k * 2 * CELL * across;
		mass.faces[0]!.mark = `M${k}`;
		mass.faces[0]!.settingOut = settingOutOf({ kind: 'count', count: across }, { kind: 'count', count: up });
		project.masses.push(mass);
		project.rules.push({
			id: `rule-${k}`,
			set: 'panels',
			faces: [faceKey(mass, mass.faces[0]!)],
			where: [],
			kit: 'framed-pane',
			values: {}
		});
	}
	return project;
}

/** Median time of a run after each of some edits. */
export async function editTime(project: Project, edit: (run: number) => void): Promise<number> {
	const memo = new Memo(new ArrayPool());
	const times: number[] = [];
	for (let run = 0; run <= RUNS + 2; run++) {
		edit(run);
		const copy = structuredClone(project);
		const start = now();
		const model = await runPipeline(copy, { memo, now });
		times.push(now() - start);
		memo.recycle(model);
	}
	return median(times.slice(3));
}

/** 100,000 cells with 20 openings and a kit that fits none of them. */
export async function misfits(): Promise<number> {
	const project = vaults(1, 250, 400);
	project.kits.push(
		kitSchema.parse({
			id: 'wide',
			name: 'Wide',
			host: { kind: 'cell', leastCorners: 3, greatestCorners: 64 },
			parameters: [],
			steps: [
				{ kind: 'outline', name: 'o' },
				{ kind: 'inset', name: 'in', of: 'o', distance: 4000 },
				{ kind: 'sheet', name: 's', role: 'pane', material: 'glass', outline: 'in', thickness: 10 }
			]
		})
	);
	project.rules[0]!.kit = 'wide';
	project.masses[0]!.faces[0]!.openings = Array.from({ length: 20 }, (_, k) =>
		openingSchema.parse({
			id: `opening-${k}`,
			name: `Opening ${k}`,
			outline: { kind: 'rectangle', width: 9000, height: 7000 },
			place: { kind: 'face', across: 40_000 + 60_000 * (k % 5), up: 60_000 + 130_000 * Math.floor(k / 5) }
		})
	);
	return editTime(project, (run) => (project.masses[0]!.frame.z = run));
}

const bytesOf = (update: ModelUpdate) =>
	buffersIn([update.bodies, update.faces]).reduce((n, buffer) => n + buffer.byteLength, 0);

/** One value of one rule on one of ten faces: what crosses, what is made anew to be drawn, and the first pick after it. */
async function oneOfTen() {
	const project = vaults(10, 100, 100);
	const host = new ModelHost({ now });
	const layer = new ModelLayer();
	let view: ModelView | undefined;
	const result = { bytes: 0, all: 0, made: 0, objects: 0, pick: [] as number[] };
	for (let run = 0; run <= RUNS; run++) {
		project.rules[3]!.values = { frameWidth: 40 + run };
		const answer = await host.run({ number: run, document: structuredClone(project) }, true, () => undefined);
		if (answer.kind !== 'model') throw new Error(answer.kind);
		const before = new Set(layer.object.children);
		view = received(answer.update, view);
		layer.show(view, PLAIN_LOOK);
		result.objects = layer.object.children.length;
		result.made = layer.object.children.filter((child) => !before.has(child)).length;
		result.bytes = bytesOf(answer.update);
		if (run === 0) result.all = result.bytes;
		const start = now();
		await host.pick([view.origin[0], view.origin[1], 100_000], [0.01, 0.02, -1]);
		result.pick.push(now() - start);
	}
	return result;
}

export async function benchSpine(): Promise<void> {
	const row = (what: string, value: string, most: string) =>
		console.log(`${what.padEnd(62)}${value.padStart(22)}   ${most}`);
	console.log('\nWhat grows with the change and what with the model, warm medians, and what they may be at most');
	row('100,000 cells, 20 openings, a kit that fits none', `${(await misfits()).toFixed(0)} ms`, '900 ms');
	const ten = vaults(10, 100, 100);
	const alone = vaults(1, 100, 100);
	const change = (project: Project, rule: number) => (run: number) =>
		void (project.rules[rule]!.values = { frameWidth: 40 + run });
	const [one, all] = [await editTime(alone, change(alone, 0)), await editTime(ten, change(ten, 3))];
	row(
		'10 faces x 10,000 cells, one value of one rule on one face',
		`${all.toFixed(1)} ms = ${(all / one).toFixed(2)} x`,
		`1.3 x the same face alone (${one.toFixed(1)} ms)`
	);
	const { bytes, all: whole, made, objects, pick } = await oneOfTen();
	const megabytes = (n: number) => `${(n / 2 ** 20).toFixed(1)} MB`;
	row('   bytes that cross', `${megabytes(bytes)} of ${megabytes(whole)}`, 'that face’s only');
	row('   objects to be drawn that are made anew', `${made} of ${objects}`, 'that face’s only');
	row('   first pick under the pointer', `${median(pick.slice(1)).toFixed(1)} ms`, '30 ms');
	const many = vaults(200, 4, 4);
	row('200 faces of 16 cells, nothing changed', `${(await editTime(many, () => undefined)).toFixed(1)} ms`, '10 ms');
}
