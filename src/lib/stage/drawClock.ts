/** How often the graphics are asked whether they are done, ms. */
const ASKED_EVERY = 4;

interface Timed {
	readonly fence: WebGLSync;
	readonly begun: number;
	readonly done: (ms: number) => void;
}

/** Tells how long the graphics take for each picture. Nothing waits for that. */
export class DrawClock {
	private readonly gl: WebGL2RenderingContext;
	/** Pictures that are being drawn, the first one first. */
	private drawing: Timed[] = [];
	private timer: ReturnType<typeof setTimeout> | undefined;
	private lastDone = 0;

	constructor(gl: WebGL2RenderingContext) {
		this.gl = gl;
	}

	/** What was begun at a time has been sent to the graphics: `done` hears how many ms they took for it alone. */
	time(begun: number, done: (ms: number) => void): void {
		const fence = this.gl.fenceSync(this.gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
		// A context that is lost makes none.
		if (!fence) return;
		this.gl.flush();
		this.drawing.push({ fence, begun, done });
		this.timer ??= setTimeout(() => this.ask(), ASKED_EVERY);
	}

	dispose(): void {
		clearTimeout(this.timer);
		this.drawing = [];
	}

	private ask(): void {
		const { gl } = this;
		this.timer = undefined;
		if (gl.isContextLost()) this.drawing = [];
		for (let first = this.drawing[0]; first && this.isDone(first); first = this.drawing[0]) {
			this.drawing.shift();
			gl.deleteSync(first.fence);
			const now = performance.now();
			// The graphics begin a picture when they are done with the one before.
			first.done(now - Math.max(first.begun, this.lastDone));
			this.lastDone = now;
		}
		if (this.drawing.length) this.timer = setTimeout(() => this.ask(), ASKED_EVERY);
	}

	private isDone({ fence }: Timed): boolean {
		return this.gl.getSyncParameter(fence, this.gl.SYNC_STATUS) === this.gl.SIGNALED;
	}
}
