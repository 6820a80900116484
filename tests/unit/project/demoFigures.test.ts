import { createHash } from 'node:crypto';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { solidsLoader } from '../../../src/core/kit/solids.ts';
import { run, shippedDemo } from '../demo.ts';
import { fileOf } from '../schedules.ts';

/** Of the marks and figures of all panels of the demo, kits aside. A change of the demo changes it on purpose; nothing else does. */
const PANELS = 'dceae2ae9258efb0a8bcaef501b18d20f340e01260f9d48b7fbb42498463486d';

describe('the figures of the demo', () => {
	it('stay what they were, digit by digit', async () => {
		const project = shippedDemo();
		const model = await run(project, { solids: solidsLoader(() => import('manifold-3d')) });
		const rows = parse<Record<string, string>>(Buffer.from(await fileOf(project, model, 'csv')), { columns: true });
		expect(rows.length).equal(3242);
		const text = rows.map(({ Kit: _, ...figures }) => Object.values(figures).join('|')).join('\n');
		expect(createHash('sha256').update(text).digest('hex')).equal(PANELS);
	});
});
