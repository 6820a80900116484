/** Everything as it is at rest, panes instead of parts, those without lines, or far fewer and larger ones. */
export type TurnedStep = 'all' | 'panes' | 'plain' | 'coarse';

/** What there is to turn. */
export interface Turned {
	/** About how much there is to draw. */
	readonly size: number;
	/** What may be left out, one after the other. */
	readonly steps: readonly TurnedStep[];
	/** What to begin with until it is known how long pictures take. */
	readonly guess: TurnedStep;
}

/** Longest time of a picture, ms, with which a model turns with the hand: ten pictures a second, with what the page takes. */
const MOST_MS = 80;
/** Share by which a model's size may differ and still take as long to draw. */
const SAME_SIZE = 0.25;
/** Pictures in turn that took longer before less is drawn: a single one may have waited for something else. */
const SLOW_PICTURES = 2;
/** One that took so many times as long suffices. */
const FAR_TOO_SLOW = 3;

/**
 * How much of a model is drawn while it is turned, by how long its pictures have taken. Within one turn it only becomes less, so
 * that nothing flickers.
 */
export class TurnPace {
	private readonly times = new Map<TurnedStep, number>();
	private model: Turned = { size: 0, steps: ['all'], guess: 'all' };
	private step: TurnedStep = 'all';
	private slow = 0;
	private turning = false;

	/** There is another model. Of one that is about as large as the one before it is known how long that takes. */
	setModel(model: Turned): void {
		if (Math.abs(model.size - this.model.size) > SAME_SIZE * this.model.size) this.times.clear();
		this.model = model;
	}

	/** What the next picture is drawn with. */
	next(turning: boolean): TurnedStep {
		if (turning && !this.turning) this.begin();
		this.turning = turning;
		return turning ? this.step : 'all';
	}

	/** A picture was drawn with so much, in so many ms. */
	drawn(step: TurnedStep, ms: number): void {
		this.times.set(step, ms);
		if (!this.turning || step !== this.step) return;
		this.slow = ms > FAR_TOO_SLOW * MOST_MS ? SLOW_PICTURES : ms > MOST_MS ? this.slow + 1 : 0;
		if (this.slow < SLOW_PICTURES) return;
		const { steps } = this.model;
		this.step = steps[steps.indexOf(step) + 1] ?? step;
		this.slow = 0;
	}

	/** The first step that is not known to be slow, or the last one. */
	private begin(): void {
		const { steps, guess } = this.model;
		const open = this.times.size ? steps : steps.slice(steps.indexOf(guess));
		this.step = open.find((s) => (this.times.get(s) ?? 0) <= MOST_MS) ?? steps.at(-1)!;
		this.slow = 0;
	}
}
