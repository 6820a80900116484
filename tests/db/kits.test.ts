import { randomUUID } from 'node:crypto';
import { expect } from 'chai';
import type { Kysely } from 'kysely';
import { packKit } from '../../src/core/project/kitFile.ts';
import { migrateToLatest } from '../../src/lib/server/database/migrate.ts';
import type { Tables } from '../../src/lib/server/database/tables.ts';
import { dropKit, keepKit, listKits, loadKit } from '../../src/lib/server/kitLibrary.ts';
import { codeOf, freshDatabase } from '../database.ts';
import { shippedDemo } from '../unit/demo.ts';

describe('the kit library in the database', () => {
	let database: Awaited<ReturnType<typeof freshDatabase>>;
	let db: Kysely<Tables>;
	before(async () => {
		database = await freshDatabase();
		db = database.db;
		await migrateToLatest(db);
	});
	after(() => database.drop());

	const file = (id: string) =>
		packKit(
			shippedDemo(),
			shippedDemo().kits.find((k) => k.id === id)!
		);

	it('keeps kits apart by their owners, by name, and gives them back as they were', async () => {
		const [mine, theirs] = [{ id: randomUUID() }, { id: randomUUID() }];
		const id = await keepKit(mine, db, file('quay-rail'));
		await keepKit(mine, db, file('framed-pane'));
		await keepKit(theirs, db, file('quay-rail'));
		expect((await listKits(mine, db)).map((k) => k.name)).deep.equal(['Framed pane', 'Quay rail']);
		expect(await loadKit(mine, db, id)).deep.equal(file('quay-rail'));
		expect(await codeOf(loadKit(theirs, db, id))).equal('not-found');
		expect(await codeOf(dropKit(theirs, db, id))).equal('not-found');
		await dropKit(mine, db, id);
		expect(await codeOf(loadKit(mine, db, id))).equal('not-found');
		expect((await listKits(theirs, db)).length).equal(1);
	});

	it('replaces a kit of the same name, and refuses ids that are none', async () => {
		const owner = { id: randomUUID() };
		const first = await keepKit(owner, db, file('quay-rail'));
		const changed = file('quay-rail');
		changed.kits[0]!.version = 7;
		expect(await keepKit(owner, db, changed)).equal(first);
		expect((await loadKit(owner, db, first)).kits[0]!.version).equal(7);
		expect(await codeOf(loadKit(owner, db, "x' or 1=1"))).equal('not-found');
	});
});
