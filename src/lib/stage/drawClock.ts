/** How often the graphics are asked whether they are done, ms. */
const ASKED_EVERY = 4;

/** Tells how long pictures take until the graphics have drawn them, one at a time. Nothing waits for that. */
export class DrawClock {
	private readonly gl: WebGL2RenderingContext;
	private timer: ReturnType<typeof setTimeout> | undefined;

	constructor(gl: WebGL2RenderingContext) {
		this.gl = gl;
	}

	/** What was begun at a time is sent to the graphics: `done` hears how many ms it took. A picture beside another that is still timed is not. */
	time(begun: number, done: (ms: number) => void): void {
		if (this.timer !== undefined) return;
		const { gl } = this;
		const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
		// A context that is lost makes none.
		if (!fence) return;
		gl.flush();
		const ask = () => {
			this.timer = undefined;
			if (gl.isContextLost()) return;
			if (gl.getSyncParameter(fence, gl.SYNC_STATUS) !== gl.SIGNALED) {
				this.timer = setTimeout(ask, ASKED_EVERY);
				return;
			}
			gl.deleteSync(fence);
			done(performance.now() - begun);
		};
		this.timer = setTimeout(ask, ASKED_EVERY);
	}

	dispose(): void {
		clearTimeout(this.timer);
	}
}
