/** What is left out while a model is turned that takes long to draw, one after the other. */
export const TURNED_STEPS = ['all', 'panes', 'plain'] as const;
/** Everything as it is at rest, panes instead of parts, or panes without lines. */
export type TurnedStep = (typeof TURNED_STEPS)[number];

/** Longest time of a picture, ms, with which a model turns with the hand: ten pictures a second, with what the page takes. */
const MOST_MS = 60;
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
	private times = new Map<TurnedStep, number>();
	private step: TurnedStep = 'all';
	private slow = 0;
	private turning = false;
	private size = 0;

	/** So much there is to draw now; of what is about as large as before it is known how long that takes. */
	setSize(size: number): void {
		if (Math.abs(size - this.size) <= SAME_SIZE * this.size) return;
		this.size = size;
		this.times.clear();
	}

	/** What the next picture is drawn with; `guess` is for a model that has not been timed. */
	next(turning: boolean, guess: TurnedStep): TurnedStep {
		if (turning && !this.turning) {
			const known = (step: TurnedStep) => this.times.get(step) ?? 0;
			this.step =
				TURNED_STEPS.slice(this.times.size ? 0 : TURNED_STEPS.indexOf(guess)).find((s) => known(s) <= MOST_MS) ??
				'plain';
			this.slow = 0;
		}
		this.turning = turning;
		return turning ? this.step : 'all';
	}

	/** A picture was drawn with so much, in so many ms. */
	drawn(step: TurnedStep, ms: number): void {
		this.times.set(step, ms);
		if (!this.turning || step !== this.step) return;
		this.slow = ms > FAR_TOO_SLOW * MOST_MS ? SLOW_PICTURES : ms > MOST_MS ? this.slow + 1 : 0;
		if (this.slow < SLOW_PICTURES) return;
		this.slow = 0;
		this.step = TURNED_STEPS[TURNED_STEPS.indexOf(step) + 1] ?? step;
	}
}
