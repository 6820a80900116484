import { expect } from 'chai';
import { closable } from '../../../src/lib/editor/closable.ts';

const after = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

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

describe('a listener that is quiet at first', () => {
	const heard: string[] = [];
	const quiet = (ms: number) => closable((what: string) => void heard.push(what), ms);
	beforeEach(() => (heard.length = 0));

	it('hears the newest once the time is over, and then all', async () => {
		const progress = quiet(30);
		progress.hear('Canopy');
		progress.hear('Lantern');
		expect(heard).deep.equal([]);
		await after(60);
		expect(heard).deep.equal(['Lantern']);
		progress.hear('Shelter');
		expect(heard).deep.equal(['Lantern', 'Shelter']);
		progress.close();
	});

	it('hears nothing of what is over sooner, or has said nothing, and all where it is not to be quiet', async () => {
		const short = quiet(20);
		short.hear('Canopy');
		short.close();
		const silent = quiet(20);
		await after(50);
		expect(heard).deep.equal([]);
		silent.close();
		short.hear('late');
		silent.hear('late');
		const open = quiet(0);
		open.hear('at once');
		open.close();
		expect(heard).deep.equal(['at once']);
	});
});
