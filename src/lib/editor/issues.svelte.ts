import { messageOf } from '../../core/errors.ts';
import { CHANGES, type Change } from '../../core/formats/changes/comparePieces.ts';
import type { ComparisonView } from '../worker/comparison.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';
import { fetchIssues, fetchRevision, removeIssue, sendIssue, type IssueLine } from './projectApi.ts';
import type { ProjectEditor } from './projectEditor.svelte.ts';
import type { Classes } from './placementState.svelte.ts';
import type { FaceView } from '../../core/view/faceView.ts';

/** What changes are called on screen, and their colours in the model; the order is that of CHANGES. */
export const CHANGE_LOOKS: Readonly<Record<Change, { readonly label: string; readonly colour: string }>> = {
	added: { label: 'Added', colour: '#009e73' },
	gone: { label: 'Gone', colour: '#5b5b5b' },
	changed: { label: 'Changed', colour: '#d55e00' },
	moved: { label: 'Moved', colour: '#56b4e9' },
	renumbered: { label: 'Renumbered', colour: '#cc79a7' }
};
/** Cells on which nothing has changed. */
const SAME = '#e4e0d6';

/** States that were given out, and what has changed between any two, or since one. */
export class IssueState {
	issues = $state.raw<readonly IssueLine[]>();
	/** Ids of the issues that are compared; the later one is the project as it is now where none is named. */
	before = $state<string>();
	after = $state<string>();
	found = $state.raw<ComparisonView>();
	busy = $state(false);
	error = $state<string>();
	/** Cells of the model are coloured by what has changed. */
	coloured = $state(true);
	private readonly editor: ProjectEditor;
	private readonly runner: ModelRunner;

	constructor(editor: ProjectEditor, runner: ModelRunner) {
		this.editor = editor;
		this.runner = runner;
	}

	/** The mark that comes next: B behind A, 3 behind 2; A for the first. */
	get nextMark(): string {
		const last = this.issues?.[0]?.mark;
		if (last === undefined) return 'A';
		if (/^\d+$/.test(last)) return String(Number(last) + 1);
		return /^[A-Y]$/i.test(last) ? String.fromCharCode(last.charCodeAt(0) + 1) : `${last}.1`;
	}

	async refresh(): Promise<void> {
		await this.try(async () => {
			this.issues = await fetchIssues(this.editor.id);
			this.before ??= this.issues[0]?.id;
		});
	}

	/** Issues the project as it is saved now; answers whether it went well. */
	async add(issue: { name: string; mark: string; author: string; note: string }): Promise<boolean> {
		return this.try(async () => {
			if (this.editor.unsaved.length) throw new Error('Some edits wait to be saved; an issue is of what is saved.');
			const made = await sendIssue(this.editor.id, { ...issue, revision: this.editor.revision });
			this.issues = [made, ...(this.issues ?? [])];
			this.before = made.id;
			this.found = undefined;
		});
	}

	async remove(id: string): Promise<void> {
		await this.try(async () => {
			await removeIssue(this.editor.id, id);
			this.issues = this.issues?.filter((i) => i.id !== id);
			if (this.before === id) [this.before, this.found] = [this.issues?.[0]?.id, undefined];
			if (this.after === id) [this.after, this.found] = [undefined, undefined];
		});
	}

	/** Compares what is chosen, anew where the project has moved on. */
	async compare(): Promise<void> {
		const [from, to] = [this.before, this.after].map((id) => this.issues?.find((i) => i.id === id));
		if (!from) return;
		await this.try(async () => {
			const states = await Promise.all([from, to].map((i) => i && fetchRevision(this.editor.id, i.revision)));
			const found = await this.runner.ask((api) => api.compare(states[0]!, states[1]));
			if (from.id === this.before && to?.id === this.after) this.found = found;
		});
	}

	/** By face that is shown; nothing where the comparison is not with the model that is shown. */
	classesOf(faces: readonly FaceView[]): Classes | undefined {
		const { found } = this;
		if (!found || this.after !== undefined || !faces.every((f) => found.faces.includes(f.hash))) return undefined;
		const classes = faces.map((f) => found.classes[found.faces.indexOf(f.hash)]!);
		const counts = [0, ...CHANGES.map(() => 0)];
		for (const list of classes) for (const c of list) counts[c]!++;
		return {
			classes,
			legend: [
				{ label: 'as it was', colour: SAME, count: counts[0]! },
				...CHANGES.map((kind, k) => ({ ...CHANGE_LOOKS[kind], count: counts[k + 1]! }))
			]
		};
	}

	private async try(work: () => Promise<void>): Promise<boolean> {
		this.busy = true;
		this.error = undefined;
		try {
			await work();
			return true;
		} catch (cause) {
			this.error = messageOf(cause);
			return false;
		} finally {
			this.busy = false;
		}
	}
}
