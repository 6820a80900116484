import type { HandleServerError, ServerInit } from '@sveltejs/kit';
import { app, stop } from '$lib/server/app.ts';
import { gate } from '$lib/server/gate.ts';
import { toZygasterError } from '$lib/server/knownError.ts';

export const init: ServerInit = async () => {
	await app();
	// Sent by adapter-node when the server has taken its last request.
	process.once('sveltekit:shutdown' as 'exit', () => void stop());
};

export const handle = gate;

export const handleError: HandleServerError = ({ error, status, message }) => {
	if (status === 404) return { message: 'There is nothing at this address.', code: 'not-found' };
	if (status < 500) return { message };
	const known = toZygasterError(error);
	return { message: known.message, code: known.code };
};
