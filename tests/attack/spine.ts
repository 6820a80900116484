import { randomBytes, randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { bytesOfArray, keepContent } from '../../src/core/content.ts';
import { packContents } from '../../src/core/project/contents.ts';
import { demoProject, shippedDemo } from '../unit/demo.ts';
import { addLevel, type OwnServer } from '../http/ownServer.ts';
import { ms, quantile, tell } from './tell.ts';

/** `npm run attack -- --kills 200` is the long form. */
const KILLS = Number(/--kills (\d+)/.exec(process.argv.join(' '))?.[1] ?? 10);
const SECONDS = 8;

/** Sends an edit until it is taken; answers how often it was sent. */
async function insist(own: OwnServer, id: string, edit: unknown): Promise<number> {
	for (let tries = 1; ; tries++) {
		const answer = await own.save(id, edit).catch(() => undefined);
		if (answer?.status === 200) return tries;
		if (answer && answer.status !== 503) throw new Error(`${answer.status}: ${await answer.text()}`);
		await wait(50);
	}
}

/** Writers that never rest while server and database are ended without warning, in turn. */
async function kills(own: OwnServer) {
	const id = await own.create();
	const acknowledged: string[] = [];
	let running = true;
	const writers = Array.from({ length: 8 }, async (_, w) => {
		for (let n = 0; running; n++) {
			const level = `level-${w}-${n}`;
			await insist(own, id, addLevel(level));
			acknowledged.push(level);
			// As many levels as a project may have.
			if (acknowledged.length > 450) return;
			await wait(100 + Math.random() * ((KILLS * 2500 * 8) / 450));
		}
	});
	const back: number[] = [];
	let ended = 0;
	for (let k = 0; k < KILLS; k++) {
		await wait(200 + Math.random() * 400);
		if (k % 2) {
			await own.kill();
			await own.start();
		} else {
			own.killDatabase();
			await wait(100);
			await own.startDatabase();
			const start = performance.now();
			while ((await fetch(`${own.base}/health`).catch(() => undefined))?.status !== 200) await wait(20);
			back.push(performance.now() - start);
			if (!own.isUp()) ended++;
		}
	}
	running = false;
	await Promise.all(writers);
	const there = (await own.load(id)).document.levels.map((l) => l.id);
	const lost = acknowledged.filter((l) => !there.includes(l)).length;
	tell(
		`${KILLS} kills of server and database, 8 writers`,
		`${lost} of ${acknowledged.length} acknowledged edits lost, ${there.length - new Set(there).size} doubled`
	);
	tell('  server ended with the database', `${ended} of ${back.length}`);
	tell('  answers after the database’s return', `worst ${ms(Math.max(...back))}`);
}

async function writersOnOne(own: OwnServer) {
	const id = await own.create();
	const tries = await Promise.all(
		Array.from({ length: 20 }, async (_, w) => {
			let worst = 0;
			for (let n = 0; n < 10; n++) worst = Math.max(worst, await insist(own, id, addLevel(`level-${w}-${n}`)));
			return worst;
		})
	);
	const { levels } = (await own.load(id)).document;
	tell(
		'20 writers at once on one project, 200 edits',
		`${200 - levels.length} lost, worst ${Math.max(...tries)} tries`
	);
}

async function designers(own: OwnServer) {
	const ids = await Promise.all(Array.from({ length: 50 }, () => own.create(shippedDemo())));
	const times: number[] = [];
	const until = performance.now() + SECONDS * 1000;
	const before = own.processor();
	await Promise.all(
		ids.map(async (id) => {
			for (let n = 1; performance.now() < until; n++) {
				const patch = [{ op: 'replace', path: '/masses/0/shape/length', value: 70_000 + n }];
				const start = performance.now();
				const { status } = await own.save(id, { id: randomUUID(), base: n, label: 'Length', patch });
				if (status !== 200) throw new Error(String(status));
				times.push(performance.now() - start);
			}
		})
	);
	const processor = ((own.processor() - before) * 1000) / times.length;
	tell(
		`50 designers, each saving without pause for ${SECONDS} s`,
		`${times.length} saves, p50 ${ms(quantile(times, 0.5))}, p95 ${ms(quantile(times, 0.95))}, ${ms(processor)} of processor a save`
	);
}

async function largeMeshes(own: OwnServer) {
	const project = demoProject();
	const positions = keepContent(bytesOfArray(new Float32Array(randomBytes(20_000_000).buffer.slice(0, 20_000_000))));
	const triangles = keepContent(bytesOfArray(new Uint32Array(5_000_000)));
	project.references = [{ id: 'ground', name: 'Ground', hidden: false, positions, triangles }];
	const id = await own.create(project, packContents([positions, triangles]));
	let n = 1;
	const saves = async (count: number) => {
		for (let k = 0; k < count; k++, n++)
			await own.save(id, {
				id: randomUUID(),
				base: n,
				label: 'Rename',
				patch: [{ op: 'replace', path: '/name', value: `${n}` }]
			});
	};
	await saves(100);
	const before = own.processor();
	await saves(200);
	tell('one save of a project with 40 MB of meshes', `${ms(((own.processor() - before) * 1000) / 200)} of processor`);
}

async function longLog(own: OwnServer) {
	const [fresh, long] = [await own.create(shippedDemo()), await own.create(shippedDemo())];
	const client = new pg.Client({ connectionString: own.database });
	await client.connect();
	await client.query(
		`insert into edit (project_id, revision, label, patch)
		select $1, n, 'Rename', jsonb_build_array(jsonb_build_object('op', 'replace', 'path', '/name', 'value', 'Name ' || n))
		from generate_series(2, 100001) n`,
		[long]
	);
	await client.query(
		`insert into project_state (project_id, revision, version, document)
		select project_id, 99990, version, document from project_state where project_id = $1`,
		[long]
	);
	await client.query('update project set revision = 100001 where id = $1', [long]);
	await client.end();
	const open = async (id: string) => {
		const times: number[] = [];
		for (let k = 0; k < 7; k++) {
			const start = performance.now();
			await own.load(id);
			times.push(performance.now() - start);
		}
		return { first: times[0]!, then: quantile(times.slice(1), 0.5) };
	};
	// As after a start: nothing is at hand.
	await own.kill();
	await own.start();
	await own.load(await own.create());
	const [a, b] = [await open(fresh), await open(long)];
	tell(
		'opening a project of 100,000 edits',
		`first ${ms(b.first)} against ${ms(a.first)} of a new one, then ${ms(b.then)} against ${ms(a.then)}`
	);
}

/** Requests that are wrong in every way must be answered as the sender's fault, and hurt nobody. */
async function faults(own: OwnServer) {
	const id = await own.create();
	const paths = [
		'/hasOwnProperty/call',
		'/propertyIsEnumerable/call',
		'/toString/call',
		'/masses/push/apply',
		'/__proto__/x',
		'/constructor/prototype/x'
	];
	const patches = [
		...paths.flatMap((path) =>
			['add', 'replace', 'remove', 'test', 'move', 'copy'].map((op) => [{ op, path, from: '/name', value: 1 }])
		),
		Array.from({ length: 20 }, () => ({ op: 'copy', from: '/kits', path: '/kits/-' })),
		[{ op: 'replace', path: '/name', value: 'a\0b' }],
		[{ op: 'replace', path: '/name', value: '\ud800' }],
		[
			{
				op: 'add',
				path: '/rules/0/values',
				value: Object.fromEntries(Array.from({ length: 100_000 }, (_, k) => [`v${k}`, k]))
			}
		]
	];
	const times: number[] = [];
	const wrong: string[] = [];
	for (const patch of patches) {
		const start = performance.now();
		const { status } = await own.save(id, { id: randomUUID(), base: 1, label: 'Attack', patch });
		times.push(performance.now() - start);
		if (status < 400 || status >= 500) wrong.push(`${status} for ${JSON.stringify(patch).slice(0, 80)}`);
	}
	const { revision } = await own.load(id);
	tell(
		`${patches.length} patches that are wrong`,
		wrong.length ? wrong.join('; ') : `all refused, slowest ${ms(Math.max(...times))}, revision ${revision}`
	);
}

/** Edits: that none is lost, whatever ends, and what they cost. */
export async function attackSpine(own: OwnServer): Promise<void> {
	await faults(own);
	await writersOnOne(own);
	await designers(own);
	await largeMeshes(own);
	await longLog(own);
	await kills(own);
}
