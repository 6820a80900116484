/**
 * Hears when the graphics card takes a canvas's picture away and gives it back, as after a driver has been restarted.
 * The renderer brings everything onto the card again by itself; somebody has to draw. Answers how to stop listening.
 */
export function watchContext(canvas: HTMLCanvasElement, changed: (lost: boolean) => void): () => void {
	const lost = (event: Event) => {
		// Without this the browser does not give it back.
		event.preventDefault();
		changed(true);
	};
	const restored = () => changed(false);
	canvas.addEventListener('webglcontextlost', lost);
	canvas.addEventListener('webglcontextrestored', restored);
	return () => {
		canvas.removeEventListener('webglcontextlost', lost);
		canvas.removeEventListener('webglcontextrestored', restored);
	};
}
