import { faceKey, type Face, type Mass, type Project } from '../../core/project/schema.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import { changeMass } from './masses.ts';
import type { ModelRunner } from './modelRunner.svelte.ts';
import type { Change, ProjectEditor } from './projectEditor.svelte.ts';

/** The face that is worked on, with its mass, its model, and changes of both. */
export class ChosenFace {
	/** Further faces that are chosen with it, by their keys: what is changed on one is changed on all. */
	others = $state.raw<readonly string[]>([]);

	/** Key of the face. */
	get chosen(): string {
		return this.first;
	}

	/** Chooses a face alone. */
	set chosen(key: string) {
		this.first = key;
		this.others = [];
	}

	private first = $state<string>('');

	private readonly editor: ProjectEditor;
	private readonly runner: ModelRunner;

	constructor(editor: ProjectEditor, runner: ModelRunner) {
		this.editor = editor;
		this.runner = runner;
		const [mass] = editor.document.masses;
		this.chosen = mass ? faceKey(mass, mass.faces[0]!) : '';
	}

	/**
	 * The chosen face with its mass and their indices; the mass's first face when the shape has lost the chosen
	 * one, the project's first when the mass is gone.
	 */
	get current(): { mass: Mass; m: number; face: Face; f: number; key: string } | undefined {
		const { masses } = this.editor.document;
		const [massId, faceId] = this.chosen.split('/');
		const m = Math.max(
			0,
			masses.findIndex((mass) => mass.id === massId)
		);
		const mass = masses[m];
		if (!mass) return undefined;
		const f = Math.max(
			0,
			mass.faces.findIndex((face) => face.id === faceId)
		);
		const face = mass.faces[f]!;
		return { mass, m, face, f, key: faceKey(mass, face) };
	}

	/** The model's figures of the face. */
	get view(): FaceView | undefined {
		return this.runner.view?.faces.find((f) => f.key === this.current?.key);
	}

	/** Keys of all chosen faces that are there, the one that is worked on first. */
	get all(): string[] {
		const { current } = this;
		if (!current) return [];
		const there = this.editor.document.masses.flatMap((m) => m.faces.map((f) => faceKey(m, f)));
		return [current.key, ...this.others.filter((key) => key !== current.key && there.includes(key))];
	}

	/** Adds a face to those chosen, or takes it out of them. */
	toggle(key: string): void {
		const { all } = this;
		if (!all.includes(key)) this.others = [...this.others, key];
		else if (all.length > 1) {
			const left = all.filter((k) => k !== key);
			this.first = left[0]!;
			this.others = left.slice(1);
		}
	}

	/** Chooses several faces, the first to be worked on. */
	chooseAll(keys: readonly string[]): void {
		this.first = keys[0] ?? '';
		this.others = keys.slice(1);
	}

	/** Change of all chosen faces, for `preview` and `commit`. */
	onFaces(change: (face: Face, draft: Project) => void): Change {
		const { all } = this;
		return (draft) => {
			for (const mass of draft.masses)
				for (const face of mass.faces) if (all.includes(faceKey(mass, face))) change(face, draft);
		};
	}

	/** Change of the face, for `preview` and `commit`. */
	onFace(change: (face: Face, draft: Project) => void): Change {
		const { m, f } = this.current!;
		return (draft) => change(draft.masses[m]!.faces[f]!, draft);
	}

	/** Change of the face's mass, whose faces then follow its shape. */
	onMass(change: (mass: Mass) => void): Change {
		const { m } = this.current!;
		return (draft) => changeMass(draft, m, change);
	}
}
