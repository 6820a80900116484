import { contentNames } from '../../core/project/contents.ts';
import type { PlainSurface } from '../stage/bodyMeshes.ts';
import { loadContents } from '../worker/contents.ts';
import { referenceSurface } from './references.ts';
import type { Workspace } from './workspace.svelte.ts';

/** The surfaces of a project's references that are not hidden, as far as they have come from the server. */
export class ReferenceSurfaces {
	list = $state.raw<readonly PlainSurface[]>([]);
	private readonly work: Pick<Workspace, 'project'>;

	constructor(work: Pick<Workspace, 'project'>) {
		this.work = work;
	}

	private readonly wanted = $derived.by(() => this.work.project.references.filter((r) => !r.hidden));

	/** Asks for what is not there yet. An effect. */
	follow(): void {
		const { wanted } = this;
		void loadContents(contentNames({ masses: [], modules: [], references: wanted })).then(() => {
			if (wanted !== this.wanted) return;
			const found = wanted.flatMap((r) => referenceSurface(r) ?? []);
			// The model is not drawn anew for what it shows already.
			if (found.length !== this.list.length || found.some((s, k) => s !== this.list[k])) this.list = found;
		});
	}
}
