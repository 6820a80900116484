// Models, drawings and sheets as files: part of `npm run bench`.
import { FORMATS, type Format } from '../../src/core/formats/format.ts';
import { writeFormat } from '../../src/core/formats/writers.ts';
import { STARTER_KITS } from '../../src/core/kit/starters/index.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline } from '../../src/core/project/pipeline.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { sheetSchema } from '../../src/core/project/sheets.ts';
import { fontFiles } from '../../src/node/fontFiles.ts';
import { vaults } from './spine.ts';

const FIELDS = [
	[45, 44],
	[100, 100],
	[200, 100]
] as const;
const MEASURED: readonly Format[] = ['ifc', 'glb', 'dxf', 'svg', 'pdf'];
const now = () => performance.now();

/** A vault with a pane on each cell and a mullion on each edge, and its developed view on a sheet. */
function clad(across: number, up: number): Project {
	const project = vaults(1, across, up);
	const face = `${project.masses[0]!.id}/${project.masses[0]!.faces[0]!.id}`;
	project.kits = ['flat-pane', 'mullion'].map((id) => STARTER_KITS.find((k) => k.id === id)!);
	const [pane, mullion] = project.kits;
	project.sets = project.sets.filter((s) => s.host === 'cell' || s.host === 'edge');
	project.rules = [pane!, mullion!].map((kit, k) => ({
		id: `r${k}`,
		set: project.sets.find((s) => s.host === (k === 0 ? 'cell' : 'edge'))!.id,
		faces: [face],
		where: [],
		kit: kit.id,
		values: {}
	}));
	project.handover.sheets = [sheetSchema.parse({ id: 's', name: 'S', paper: 'A0', view: { kind: 'developed' } })];
	return project;
}

/** Prints what files take. */
export async function benchFiles(quick: boolean): Promise<void> {
	console.log(`\nFiles of a vault with a pane a cell and a mullion an edge, second of two runs: ms (MB)`);
	console.log(`cells   pieces  ${MEASURED.map((f) => f.padStart(16)).join('')}`);
	for (const [across, up] of FIELDS.slice(0, quick ? 2 : undefined)) {
		const project = clad(across, up);
		const model = await runPipeline(project, { memo: new Memo(), now });
		const pieces = model.faces[0]!.placements.reduce((n, p) => n + p.hosts.length, 0);
		const columns: string[] = [];
		for (const format of FORMATS.filter((f) => MEASURED.includes(f))) {
			let [ms, bytes] = [0, 0];
			for (let run = 0; run < 2; run++) {
				const start = now();
				bytes = 0;
				await writeFormat(format, { project, model, fonts: fontFiles }, {}, (chunk) => void (bytes += chunk.length));
				ms = now() - start;
			}
			columns.push(`${ms.toFixed(0)} (${(bytes / 1e6).toFixed(1)})`.padStart(16));
		}
		console.log(`${String(across * up).padEnd(8)}${String(pieces).padEnd(8)}${columns.join('')}`);
	}
}
