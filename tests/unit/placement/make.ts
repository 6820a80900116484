import type { Condition, Rule } from '../../../src/core/placement/rules/schema.ts';
import { checkDocument } from '../../../src/core/project/read.ts';
import type { Project } from '../../../src/core/project/schema.ts';
import { demoWith, run } from '../demo.ts';

export const FACE = 'canopy/skin';

/** The demo's canopy in so many rectangles, with these rules on its panels alone. */
export function withRules(rules: readonly Partial<Rule>[], across = 12, up = 8): Project {
	const project = demoWith(across, up);
	project.rules = rules.map((rule, k) => ({
		id: `r${k + 1}`,
		set: 'panels',
		faces: [FACE],
		where: [],
		kit: 'flat-pane',
		values: {},
		...rule
	}));
	return project;
}

/** A project checked and run, with its only face. */
export async function placed(project: Project) {
	const model = await run(checkDocument(JSON.parse(JSON.stringify(project))));
	const face = model.faces.find((f) => f.key === FACE)!;
	return { model, face, set: face.assigned.sets[0]!, jobs: face.assigned.jobs };
}

/** Cells that a condition takes, as row and column from 1. */
export async function cellsWhere(where: Condition[], change: (project: Project) => void = () => undefined) {
	const project = withRules([{ where }]);
	change(project);
	const { face, set } = await placed(project);
	return [...set.ruleOf.keys()]
		.filter((c) => set.ruleOf[c] === 0)
		.map((c) => ({ cell: c, row: face.cells.row[c]! + 1, column: face.cells.column[c]! + 1, face }));
}
