import { expose } from 'comlink';
import manifoldWasm from 'manifold-3d/manifold.wasm?url';
import { solidsLoader } from '../../core/kit/solids.ts';
import { loadContents } from './contents.ts';
import { ModelHost } from './modelHost.ts';

/** How long the worker works before it listens. */
const LISTEN_MS = 8;
let listened = performance.now();

/** Now and then a turn of the event loop, without the clamp of timers, so that a newer call is heard. */
function letMessagesThrough(): Promise<void> {
	if (performance.now() - listened < LISTEN_MS) return Promise.resolve();
	return new Promise((resolve) => {
		const { port1, port2 } = new MessageChannel();
		port1.onmessage = () => {
			port1.close();
			listened = performance.now();
			resolve();
		};
		port2.postMessage(null);
	});
}

/** What a run may take of the memory: half of what the machine has, as far as it tells (in GB), and no more than a tab has. */
const MOST_BYTES = 4e9;
const { deviceMemory } = navigator as { readonly deviceMemory?: number };

expose(
	new ModelHost({
		now: () => performance.now(),
		pause: letMessagesThrough,
		load: loadContents,
		memory: Math.min(MOST_BYTES, (deviceMemory ?? Infinity) * 0.5e9),
		fault: (cause, what) => console.error(what, cause),
		solids: solidsLoader(() => import('manifold-3d'), manifoldWasm)
	})
);
