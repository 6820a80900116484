// Server-sent events of a project, as tests and benchmarks listen to them.

/** An event as it came: edits have no name but the revision that they lead to. */
interface ProjectEvent {
	readonly event: string;
	readonly id: number;
	readonly data: string;
}

/** How an order stands, as the page is told. */
export interface ToldOrder {
	readonly id: string;
	readonly state: string;
}

/** Fields of a block (HTML standard, "Server-sent events"). */
function eventOf(block: string): ProjectEvent {
	const fields = new Map(block.split('\n').map((line) => line.split(/: (.*)/s, 2) as [string, string]));
	return { event: fields.get('event') ?? '', id: Number(fields.get('id') ?? NaN), data: fields.get('data') ?? '' };
}

/** Listens to a project from a revision on. Rejects where the events end while somebody waits for one. */
export async function listenTo(base: string, project: string, since = 0) {
	const abort = new AbortController();
	const response = await fetch(`${base}/api/projects/${project}/events?since=${since}`, { signal: abort.signal });
	const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
	let text = '';
	/** The next one that is wanted; others are passed over. */
	const next = async (wanted: (event: ProjectEvent) => boolean): Promise<ProjectEvent> => {
		for (;;) {
			for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
				const event = eventOf(text.slice(0, end));
				text = text.slice(end + 2);
				if (wanted(event)) return event;
			}
			const { value, done } = await reader.read();
			if (done) throw new Error('the events have ended');
			text += value;
		}
	};
	return {
		type: response.headers.get('content-type'),
		edit: async () => {
			const { id, data } = await next((e) => e.event === '' && !Number.isNaN(e.id));
			return { id, label: (JSON.parse(data) as { label: string }).label };
		},
		orders: async () => JSON.parse((await next((e) => e.event === 'orders')).data) as readonly ToldOrder[],
		stop: () => abort.abort()
	};
}
