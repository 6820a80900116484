/**
 * A listener that hears nothing any more once it is closed: messages may arrive after what they are about has ended. In the
 * first `quiet` ms it hears nothing, either, and after them the newest.
 */
export function closable<A extends unknown[]>(listener: (...args: A) => void, quiet = 0) {
	let open = true;
	let silent = quiet > 0;
	let newest: A | undefined;
	const speak = () => {
		silent = false;
		if (newest) listener(...newest);
	};
	const timer = silent ? setTimeout(speak, quiet) : undefined;
	return {
		hear: (...args: A): void => {
			if (!open) return;
			if (silent) newest = args;
			else listener(...args);
		},
		close: (): void => {
			open = false;
			clearTimeout(timer);
		}
	};
}
