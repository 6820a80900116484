import { expect } from 'chai';
import fc from 'fast-check';
import { TurnPace, type Turned, type TurnedStep } from '../../../src/lib/stage/turnPace.ts';

const STEPS = ['all', 'panes', 'plain', 'coarse'] as const;
const sized = (size: number, guess: TurnedStep = 'all'): Turned => ({ size, steps: STEPS, guess });

function paceOf(model: Turned): TurnPace {
	const pace = new TurnPace();
	pace.setModel(model);
	return pace;
}

/** A model whose pictures take so long is turned through so many of them, and left alone; what each was drawn with. */
function turn(pace: TurnPace, takes: Readonly<Record<TurnedStep, number>>, pictures: number) {
	const seen = Array.from({ length: pictures }, () => {
		const step = pace.next(true);
		pace.drawn(step, takes[step]);
		return step;
	});
	pace.drawn(pace.next(false), takes.all);
	return seen;
}

describe('what is left out while a model is turned', () => {
	it('is nothing where pictures are quick, however large the model is', () => {
		const quick = { all: 12, panes: 5, plain: 3, coarse: 2 };
		expect(new Set(turn(paceOf(sized(1e6)), quick, 20))).deep.equal(new Set(['all']));
		// A guess counts until the first picture at rest has been timed.
		const guessed = paceOf(sized(1e6, 'panes'));
		expect(turn(guessed, quick, 3)).deep.equal(['panes', 'panes', 'panes']);
		expect(turn(guessed, quick, 2)).deep.equal(['all', 'all']);
	});

	it('becomes more after two slow pictures, until they are quick, and begins there the next time', () => {
		const pace = paceOf(sized(1000));
		const takes = { all: 150, panes: 100, plain: 30, coarse: 10 };
		expect(turn(pace, takes, 7)).deep.equal(['all', 'all', 'panes', 'panes', 'plain', 'plain', 'plain']);
		expect(turn(pace, takes, 2)).deep.equal(['plain', 'plain']);
		// Another model, of about that size and of another one.
		pace.setModel(sized(1100));
		expect(turn(pace, takes, 1)).deep.equal(['plain']);
		pace.setModel(sized(2000));
		expect(turn(pace, takes, 1)).deep.equal(['all']);
		// Of pictures that take a second nobody wants to see a second one; what the last step takes is as it is.
		const slow = { all: 1000, panes: 400, plain: 300, coarse: 290 };
		expect(turn(paceOf(sized(1000)), slow, 5)).deep.equal(['all', 'panes', 'plain', 'coarse', 'coarse']);
	});

	it('a single slow picture changes nothing', () => {
		const pace = paceOf(sized(1000));
		pace.drawn('all', 20);
		for (const ms of [20, 150, 20, 150, 20]) {
			expect(pace.next(true)).equal('all');
			pace.drawn('all', ms);
		}
	});

	it('never grows within a turn, and is nothing at rest', () => {
		const ms = fc.integer({ min: 1, max: 200 });
		fc.assert(
			fc.property(fc.array(fc.tuple(fc.boolean(), ms), { maxLength: 60 }), (pictures) => {
				const pace = paceOf(sized(1000, 'panes'));
				let [before, was] = [0, false];
				for (const [turning, takes] of pictures) {
					const step = pace.next(turning);
					const at = STEPS.indexOf(step);
					if (!turning) expect(step).equal('all');
					else if (was) expect(at).least(before);
					[before, was] = [at, turning];
					pace.drawn(step, takes);
				}
			})
		);
	});
});
