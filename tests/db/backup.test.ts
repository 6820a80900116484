import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { changeWithPatches } from '../../src/core/project/patch.ts';
import { PROGRAM } from '../../src/lib/server/actor.ts';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import { documentAt, forgetDocuments } from '../../src/lib/server/documents.ts';
import { saveEdit } from '../../src/lib/server/edits.ts';
import { createProject, loadProject } from '../../src/lib/server/projects.ts';
import { projectOfMeshes } from '../unit/meshProject.ts';
import { freshDatabase } from '../database.ts';

describe('backup and restore', () => {
	const directory = mkdtempSync(join(tmpdir(), 'zygaster-backup-'));
	const file = join(directory, 'state.dump');
	after(() => rmSync(directory, { recursive: true }));

	const run = (what: string, url: string, ...options: string[]) => {
		const { status, stdout, stderr } = spawnSync('node', ['scripts/backup.mjs', what, file, ...options], {
			encoding: 'utf8',
			env: { ...process.env, DATABASE_URL: url }
		});
		return { status, words: stdout + stderr };
	};

	it('bring back the same state, with its meshes and its revisions, and say so', async () => {
		const [from, to] = [await freshDatabase(), await freshDatabase()];
		try {
			await migrateToLatest(from.db);
			const project = projectOfMeshes(5000);
			const id = await createProject(PROGRAM, from.db, project);
			const { patch } = changeWithPatches(project, (p) => (p.name = 'Edited'));
			await saveEdit(PROGRAM, from.db, id, { id: randomUUID(), base: 1, label: 'Rename', patch });
			expect(run('backup', from.url)).include({ status: 0 });
			expect(run('restore', to.url)).deep.equal({ status: 0, words: 'Brought back, and every row is as it was.\n' });
			forgetDocuments();
			expect((await loadProject(PROGRAM, to.db, id)).document.name).equal('Edited');
			expect((await documentAt(to.db, id, 1)).name).equal('Hall');
			// What is there is not overwritten unless that is asked for.
			const refused = run('restore', to.url);
			expect([refused.status, refused.words]).satisfy(
				([status, words]: [number, string]) => status === 1 && words.includes('holds 1 projects')
			);
			expect(run('restore', to.url, '--replace').status).equal(0);
		} finally {
			await from.drop();
			await to.drop();
		}
	});

	it('tell where what was brought back is not what was put away', async () => {
		const [from, to] = [await freshDatabase(), await freshDatabase()];
		try {
			await migrateToLatest(from.db);
			await createProject(PROGRAM, from.db, projectOfMeshes(5100));
			run('backup', from.url);
			const sums = `${file}.sums.json`;
			writeFileSync(sums, readFileSync(sums, 'utf8').replace('"rows": 1', '"rows": 2'));
			expect(run('restore', to.url)).satisfy(
				({ status, words }: { status: number; words: string }) =>
					status === 1 && words.includes('is not what was put away')
			);
		} finally {
			await from.drop();
			await to.drop();
		}
	});
});
