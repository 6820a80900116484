import { fieldHandles } from './fields.ts';
import { cornerHandles, dragHandle, dragTargets, frameHandle, handlesOf, type Handle } from './handles.ts';
import type { ModelPicture } from './modelPicture.svelte.ts';
import type { Workspace } from './workspace.svelte.ts';

/** The handles in the picture: of what a file brings, of the open field, or of the chosen mass where masses are made. */
export class SpaceHandles {
	/** What is wrong with the place that one is dragged to. */
	error = $state<string>();
	private readonly work: Workspace;
	private readonly picture: ModelPicture;
	/** The one that is dragged, as it was when that began. */
	private held: Handle | undefined;

	constructor(work: Workspace, picture: ModelPicture) {
		this.work = work;
		this.picture = picture;
	}

	/** What a file brings, which is looked at instead of the model. */
	readonly incoming = $derived.by(() => (this.work.place === 'mass' ? this.work.importing : undefined));
	/** The field whose points are dragged; -1 for none. */
	private readonly openField = $derived.by(() => {
		const { place, project, placement } = this.work;
		return place === 'placement' ? project.fields.findIndex((f) => f.id === placement.field) : -1;
	});

	readonly list: readonly Handle[] = $derived.by(() => {
		const { place, project, face } = this.work;
		const { incoming, openField } = this;
		if (incoming) return cornerHandles(incoming.reportOf(incoming.face)?.corners ?? []);
		if (openField >= 0) return fieldHandles(project.fields[openField]!);
		const mass = face.current?.mass;
		return place === 'mass' && mass ? [frameHandle(mass), ...handlesOf(project, mass)] : [];
	});

	/** While the model of an edit is made, handles stay on the one that is seen. */
	private readonly awaited = $derived.by(() => {
		const { early, view } = this.picture;
		const { runner, project } = this.work;
		if (early) return runner.early?.of !== project;
		return (
			view !== runner.view ||
			(view && !runner.held && runner.made !== project && ['ready', 'running'].includes(runner.state.kind))
		);
	});

	/** Shows the handles where the model stands that is seen. An effect. */
	follow(): void {
		// They stand where its origin is.
		void (this.picture.early ?? this.picture.view);
		if (this.held || !this.awaited) this.work.space?.setHandles(this.list);
	}

	/** A handle was dragged so far along each of its directions, mm. */
	drag(k: number, way: readonly number[], done: boolean): void {
		const { incoming, openField } = this;
		const { editor, face } = this.work;
		if (incoming) {
			const at = this.list[k]?.at;
			if (done && at) void incoming.moveCorner(k, [at[0] + way[0]!, at[1] + way[1]!, at[2] + way[2]!]);
			return;
		}
		this.held ??= this.list[k];
		const handle = this.held;
		if (!handle) return;
		const change =
			openField >= 0
				? (draft: Workspace['project']) => dragTargets(draft.fields[openField]!, handle, way)
				: face.onMass((mass) => dragHandle(mass, handle, way));
		if (!done) return void (this.error = editor.preview(change));
		this.held = undefined;
		const label = `Drag ${handle.label.toLowerCase()}`;
		const error = editor.commit(label, change);
		// A place that is not possible is left for the last one that was.
		if (error) editor.notice = editor.keepPreview(label);
		this.error = undefined;
	}
}
