import { setAt, valueAt, type Path } from './paths.ts';
import type { Change } from './projectEditor.svelte.ts';
import type { Editing } from './context.ts';

/** What of the chosen face a path starts from: its mass's shape, or the face itself. */
export type PathRoot = 'shape' | 'face';

/** Reads and changes one place of the chosen mass's shape or of the chosen face. */
export class PathEdit {
	private readonly root: PathRoot;
	private readonly work: Editing;
	private readonly path: () => Path;
	private readonly label: () => string;

	constructor(root: PathRoot, work: Editing, path: () => Path, label: () => string) {
		this.root = root;
		this.work = work;
		this.path = path;
		this.label = label;
	}

	get value(): unknown {
		const current = this.work.face.current;
		return valueAt(this.root === 'shape' ? current?.mass.shape : current?.face, this.path());
	}

	readonly preview = (value: unknown) => this.work.editor.preview(this.set(value));

	readonly commit = (value: unknown) =>
		this.work.editor.commit(`Change ${this.label().toLowerCase()}`, this.set(value));

	/** Accepts a value where no place for its fault stands beside: that is told above the workspace. */
	readonly apply = (value: unknown) => this.work.editor.apply(`Change ${this.label().toLowerCase()}`, this.set(value));

	readonly revert = () => this.work.editor.revert();

	/** Changes whatever is there in place. */
	readonly change = (label: string, change: (value: unknown) => void) =>
		this.work.editor.commit(
			label,
			this.on((root) => change(valueAt(root, this.path())))
		);

	private set(value: unknown): Change {
		const path = this.path();
		return this.on((root) => setAt(root, path, structuredClone(value)));
	}

	private on(change: (root: object) => void): Change {
		return this.root === 'shape'
			? this.work.face.onMass((mass) => change(mass.shape))
			: // Openings are each face's own.
				this.path()[0] === 'openings'
				? this.work.face.onFace((face) => change(face))
				: this.work.face.onFaces((face) => change(face));
	}
}
