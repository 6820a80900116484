/** A listener that hears nothing any more once it is closed: messages may arrive after what they are about has ended. */
export function closable<A extends unknown[]>(listener: (...args: A) => void) {
	let open = true;
	return {
		hear: (...args: A): void => {
			if (open) listener(...args);
		},
		close: (): void => {
			open = false;
		}
	};
}
