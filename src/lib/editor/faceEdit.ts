import type { Face } from '../../core/project/schema.ts';
import { setAt, valueAt, type Path } from './paths.ts';
import type { Workspace } from './workspace.svelte.ts';

/** Reads and changes one place of the chosen face. */
export class FaceEdit {
	private readonly work: Workspace;
	private readonly path: () => Path;
	private readonly label: () => string;

	constructor(work: Workspace, path: () => Path, label: () => string) {
		this.work = work;
		this.path = path;
		this.label = label;
	}

	get value(): unknown {
		return valueAt(this.work.current?.face, this.path());
	}

	readonly preview = (value: unknown) => this.work.editor.preview(this.set(value));

	readonly commit = (value: unknown) =>
		this.work.editor.commit(`Change ${this.label().toLowerCase()}`, this.set(value));

	readonly revert = () => this.work.editor.revert();

	private set(value: unknown) {
		const path = this.path();
		return this.work.onFace((face: Face) => setAt(face, path, structuredClone(value)));
	}
}
