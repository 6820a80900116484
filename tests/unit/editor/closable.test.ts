import { expect } from 'chai';
import { closable } from '../../../src/lib/editor/closable.ts';

describe('a listener that can be closed', () => {
	it('hears what comes before, and nothing of what comes late', () => {
		const heard: [number, string][] = [];
		const progress = closable((share: number, what: string) => heard.push([share, what]));
		progress.hear(0.5, 'Canopy');
		progress.close();
		progress.hear(0.9, 'Lantern');
		expect(heard).deep.equal([[0.5, 'Canopy']]);
	});
});
