import { createHash } from 'node:crypto';
import { expect } from 'chai';
import { parse } from 'csv-parse/sync';
import { solidsLoader } from '../../../src/core/kit/solids.ts';
import { run, shippedDemo } from '../demo.ts';
import { fileOf } from '../schedules.ts';

/** Of the marks and figures of all panels of the demo, kits aside. A change of the demo changes it on purpose; nothing else does. */
const PANELS = 'a3cb0a2a886444c89138056a60cd3885d37c32684bd60a8ffcaa1756a1a0a6a0';

describe('the figures of the demo', () => {
	it('stay what they were, digit by digit', async () => {
		const project = shippedDemo();
		const model = await run(project, { solids: solidsLoader(() => import('manifold-3d')) });
		const rows = parse<Record<string, string>>(Buffer.from(await fileOf(project, model, 'csv')), { columns: true });
		expect(rows.length).equal(3158);
		const text = rows.map(({ Kit: _, ...figures }) => Object.values(figures).join('|')).join('\n');
		expect(createHash('sha256').update(text).digest('hex')).equal(PANELS);
	});
});
