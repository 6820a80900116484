/** A listener that hears the newest once so many milliseconds are over, and all that comes after; nothing once it is closed. */
export function quietAtFirst<A extends unknown[]>(ms: number, listener: (...args: A) => unknown) {
	let state: 'quiet' | 'open' | 'closed' = ms > 0 ? 'quiet' : 'open';
	let newest: A | undefined;
	const timer = setTimeout(() => {
		if (state !== 'quiet') return;
		state = 'open';
		if (newest) listener(...newest);
	}, ms);
	return {
		hear: (...args: A): void => {
			newest = args;
			if (state === 'open') listener(...args);
		},
		close: (): void => {
			state = 'closed';
			clearTimeout(timer);
		}
	};
}
