import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { diffProjects } from '../src/core/project/diff.ts';
import { changeProject } from '../src/core/project/patch.ts';
import { readProject } from '../src/core/project/read.ts';
import type { Project } from '../src/core/project/schema.ts';
import { PROGRAM } from '../src/lib/server/actor.ts';
import { alone } from '../src/lib/server/database/alone.ts';
import { connect } from '../src/lib/server/database/connect.ts';
import { migrateToLatest } from '../src/lib/server/database/migrate.ts';
import { saveEdit } from '../src/lib/server/edits.ts';
import { addIssue } from '../src/lib/server/issues.ts';
import { createProject } from '../src/lib/server/projects.ts';

/** The demo always has this address, so that a second start adds nothing and a deleted demo stays deleted. */
const DEMO_ID = '5a110000-0000-4000-8000-000000000001';

const db = connect(process.env.DATABASE_URL!);
await alone(process.env.DATABASE_URL!, () => migrateToLatest(db));
const demo = readProject(readFileSync('examples/sallow-reach.json', 'utf8'));
const tender = asTendered(demo);
// What was tendered has one revision more behind it since, so that there is something to compare.
const there = await db.selectFrom('project').select('id').where('id', '=', DEMO_ID).executeTakeFirst();
if (!there) {
	await createProject(PROGRAM, db, tender, DEMO_ID);
	const issue = { name: 'Tender', mark: 'A', author: 'Sallow Reach design team', note: 'For pricing' };
	await addIssue(PROGRAM, db, DEMO_ID, { ...issue, revision: 1 });
	const patch = diffProjects(tender, demo);
	await saveEdit(PROGRAM, db, DEMO_ID, { id: randomUUID(), label: 'Answers to the tender', patch, base: 1 });
}
await db.destroy();

/** The demo as it was tendered: a flatter shelter with fewer cells, and thinner glass on the canopy. */
function asTendered(now: Project): Project {
	return changeProject(now, (draft) => {
		const shelter = draft.masses.find((m) => m.id === 'shelter')!;
		shelter.faces[0]!.settingOut.across.spacing = { kind: 'count', count: 10 };
		for (const rule of draft.rules) {
			if (rule.id === 'shelter-bays') rule.values = { rise: 250 };
			if (rule.kit === 'flat-pane') rule.values = { ...rule.values, paneThickness: 10 };
		}
	});
}
