/** A failure told in the user's words: what is wrong, where, and what would be right. */
export class ZygasterError extends Error {
	/** Stable code for programs; the message is for people. */
	readonly code: string;
	/** Where it happened, such as `Canopy, length`; empty when there is no place. */
	readonly place: string;

	constructor(code: string, message: string, place = '', options?: ErrorOptions) {
		super(message, options);
		this.name = 'ZygasterError';
		this.code = code;
		this.place = place;
	}
}

/** Thrown by a stage when a newer run has taken over. */
export class CancelledError extends ZygasterError {
	constructor() {
		super('cancelled', 'The run was stopped because a newer one took over.');
	}
}

/** The words of anything that was thrown. */
export function messageOf(cause: unknown): string {
	return cause instanceof Error ? cause.message : String(cause);
}
