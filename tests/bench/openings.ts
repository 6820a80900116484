import { ArrayPool } from '../../src/core/arrays.ts';
import { Memo } from '../../src/core/project/memo.ts';
import { runPipeline, type Model } from '../../src/core/project/pipeline.ts';
import type { Project } from '../../src/core/project/schema.ts';
import { settingOutOf } from '../../src/core/settingout/spacing.ts';
import { openingSchema } from '../../src/core/tiling/openings/schema.ts';
import { demoProject } from '../unit/demo.ts';

const RUNS = 7;

/** The canopy with so many round openings in it. */
function canopy(across: number, up: number, openings: number): Project {
	const project = demoProject();
	const face = project.masses[0]!.faces[0]!;
	face.settingOut = settingOutOf({ kind: 'count', count: across }, { kind: 'count', count: up });
	face.openings = Array.from({ length: openings }, (_, k) =>
		openingSchema.parse({
			id: `o-${k}`,
			name: 'Hole',
			outline: { kind: 'circle', diameter: 3000 },
			place: { kind: 'face', across: 6000 + (k % 4) * 7000, up: 6000 + Math.floor(k / 4) * 13_000 }
		})
	);
	return project;
}

/** Cells across and up, and openings. */
const SIZES = [
	[40, 50, 5],
	[100, 100, 10],
	[250, 400, 20]
] as const;

/** A count changed and an opening dragged, with all stages behind, and the stage that cuts by itself; medians in ms. */
export async function benchOpenings(quick: boolean): Promise<void> {
	console.log('\nopenings, medians of', RUNS, 'in ms');
	for (const [across, up, openings] of SIZES.slice(0, quick ? 2 : undefined)) {
		const memo = new Memo(new ArrayPool());
		let model: Model | undefined;
		const time = async (project: Project) => {
			const start = performance.now();
			model = await runPipeline(project, { memo, now: () => performance.now() });
			memo.recycle(model);
			return { all: performance.now() - start, tiling: model.stageTimes.tiling };
		};
		await time(canopy(across, up, openings));
		const counted: number[] = [];
		const dragged: number[] = [];
		const cut: number[] = [];
		for (let k = 1; k <= RUNS; k++) {
			counted.push((await time(canopy(across + (k % 2), up, openings))).all);
			const moved = canopy(across + (k % 2), up, openings);
			const { place } = moved.masses[0]!.faces[0]!.openings[0]!;
			if (place.kind === 'face') place.across += 37 * k;
			const { all, tiling } = await time(moved);
			dragged.push(all);
			cut.push(tiling);
		}
		const median = (values: number[]) => values.sort((a, b) => a - b)[RUNS >> 1]!.toFixed(0);
		console.log(
			`${across * up} cells, ${openings} openings: count changed ${median(counted)}, opening dragged ${median(dragged)}, cutting alone ${median(cut)}`
		);
	}
}
