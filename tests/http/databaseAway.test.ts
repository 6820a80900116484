import { setTimeout as wait } from 'node:timers/promises';
import { expect } from 'chai';
import { addLevel, ownServer } from './ownServer.ts';

describe('a database that goes away', () => {
	it('is told as such; nothing is lost, and saving goes on when it is back', async () => {
		const own = await ownServer();
		try {
			const id = await own.create();
			const edit = addLevel('loft');
			own.stopDatabase();
			const refused = await own.save(id, edit);
			expect(refused.status).equal(503);
			expect(await refused.json())
				.property('message')
				.contains('cannot be reached just now');
			expect((await fetch(`${own.base}/health`)).status).equal(503);
			await own.startDatabase();
			let saved = await own.save(id, edit);
			for (let k = 0; k < 20 && saved.status === 503; k++) {
				await wait(500);
				saved = await own.save(id, edit);
			}
			expect(saved.status).equal(200);
			expect((await own.load(id)).document.levels.map((l) => l.id)).deep.equal(['loft']);
		} finally {
			await own.end();
		}
	});

	it('while people save leaves the server up, loses nothing that was acknowledged, and doubles nothing', async () => {
		const own = await ownServer();
		try {
			const id = await own.create();
			const acknowledged: string[] = [];
			let saving = true;
			const writers = Array.from({ length: 8 }, async (_, w) => {
				for (let n = 0; saving; n++) {
					const edit = addLevel(`level-${w}-${n}`);
					for (;;) {
						const { status } = await own.save(id, edit);
						if (status === 200) break;
						expect(status).equal(503);
						await wait(100);
					}
					acknowledged.push(`level-${w}-${n}`);
				}
			});
			for (let kill = 0; kill < 3; kill++) {
				await wait(700);
				own.killDatabase();
				await wait(300);
				await own.startDatabase();
			}
			await wait(700);
			saving = false;
			await Promise.all(writers);
			expect(own.isUp()).to.be.true;
			const there = (await own.load(id)).document.levels.map((l) => l.id);
			expect(new Set(there).size).equal(there.length);
			expect(acknowledged.length).greaterThan(20);
			expect(there.sort()).deep.equal([...acknowledged].sort());
		} finally {
			await own.end();
		}
	});
});
