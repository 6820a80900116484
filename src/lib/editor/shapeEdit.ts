import { setAt, valueAt, type Path } from './paths.ts';
import type { Workspace } from './workspace.svelte.ts';

/** Reads and changes one place of the chosen mass's shape. */
export class ShapeEdit {
	private readonly work: Workspace;
	private readonly path: () => Path;
	private readonly label: () => string;

	constructor(work: Workspace, path: () => Path, label: () => string) {
		this.work = work;
		this.path = path;
		this.label = label;
	}

	get value(): unknown {
		return valueAt(this.work.current?.mass.shape, this.path());
	}

	readonly preview = (value: unknown) => this.work.editor.preview(this.set(value));

	readonly commit = (value: unknown) =>
		this.work.editor.commit(`Change ${this.label().toLowerCase()}`, this.set(value));

	readonly revert = () => this.work.editor.revert();

	/** Changes whatever is there in place. */
	readonly change = (label: string, change: (value: unknown) => void) =>
		this.work.editor.commit(
			label,
			this.work.onMass((mass) => change(valueAt(mass.shape, this.path())))
		);

	private set(value: unknown) {
		const path = this.path();
		return this.work.onMass((mass) => setAt(mass.shape, path, structuredClone(value)));
	}
}
