import { expect } from 'chai';
import fc from 'fast-check';
import { TurnPace, TURNED_STEPS, type TurnedStep } from '../../../src/lib/stage/turnPace.ts';

/** A model whose pictures take so long, turned through so many of them; what each was drawn with. */
function turn(
	pace: TurnPace,
	takes: Readonly<Record<TurnedStep, number>>,
	pictures: number,
	guess: TurnedStep = 'all'
) {
	const seen = Array.from({ length: pictures }, () => {
		const step = pace.next(true, guess);
		pace.drawn(step, takes[step]);
		return step;
	});
	pace.drawn(pace.next(false, guess), takes.all);
	return seen;
}

describe('what is left out while a model is turned', () => {
	it('is nothing where pictures are quick, however large the model is', () => {
		const pace = new TurnPace();
		expect(new Set(turn(pace, { all: 12, panes: 5, plain: 3 }, 20))).deep.equal(new Set(['all']));
		// A guess counts until the first picture at rest has been timed.
		const guessed = new TurnPace();
		expect(turn(guessed, { all: 12, panes: 5, plain: 3 }, 3, 'panes')).deep.equal(['panes', 'panes', 'panes']);
		expect(turn(guessed, { all: 12, panes: 5, plain: 3 }, 2, 'panes')).deep.equal(['all', 'all']);
	});

	it('becomes more after two slow pictures, until they are quick, and begins there the next time', () => {
		const pace = new TurnPace();
		const takes = { all: 150, panes: 100, plain: 30 };
		expect(turn(pace, takes, 7)).deep.equal(['all', 'all', 'panes', 'panes', 'plain', 'plain', 'plain']);
		expect(turn(pace, takes, 2)).deep.equal(['plain', 'plain']);
		// Another model, of about that size and of another one.
		pace.setSize(1000);
		turn(pace, takes, 7);
		pace.setSize(1100);
		expect(turn(pace, takes, 1)).deep.equal(['plain']);
		pace.setSize(2000);
		expect(turn(pace, takes, 1)).deep.equal(['all']);
		// Of pictures that take a second nobody wants to see a second one.
		expect(turn(new TurnPace(), { all: 1000, panes: 400, plain: 300 }, 4)).deep.equal([
			'all',
			'panes',
			'plain',
			'plain'
		]);
	});

	it('a single slow picture changes nothing', () => {
		const pace = new TurnPace();
		pace.drawn('all', 20);
		for (const ms of [20, 150, 20, 150, 20]) {
			expect(pace.next(true, 'all')).equal('all');
			pace.drawn('all', ms);
		}
	});

	it('never grows within a turn, and is nothing at rest', () => {
		const ms = fc.integer({ min: 1, max: 200 });
		fc.assert(
			fc.property(fc.array(fc.tuple(fc.boolean(), ms), { maxLength: 60 }), (pictures) => {
				const pace = new TurnPace();
				let [before, was] = [0, false];
				for (const [turning, takes] of pictures) {
					const step = pace.next(turning, 'panes');
					const at = TURNED_STEPS.indexOf(step);
					if (!turning) expect(step).equal('all');
					else if (was) expect(at).least(before);
					[before, was] = [at, turning];
					pace.drawn(step, takes);
				}
			})
		);
	});
});
