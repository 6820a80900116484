import type { FaceModel } from '../../core/project/faceResult.ts';
import type { Model } from '../../core/project/pipeline.ts';
import type { Project } from '../../core/project/schema.ts';
import { USUAL_TYPES } from '../../core/schedule/types/schema.ts';
import { ModelViewer } from '../../core/view/modelView.ts';

const NO_PROJECT = { levels: [], materials: [], fields: [], zones: [], numbers: [], types: USUAL_TYPES };

/** The model that is here, and what it is of. */
export abstract class ModelState {
	protected readonly viewer = new ModelViewer();
	protected model: Model | undefined;
	/** Faces of the model by the hashes of their views. */
	protected views = new Map<string, FaceModel>();
	protected hidden: ReadonlySet<string> = new Set();
	/** The project of the model. */
	protected whole: Project | undefined;
	/** What of it is asked for before there is a model, too. */
	protected get project(): Pick<Project, keyof typeof NO_PROJECT> {
		return this.whole ?? NO_PROJECT;
	}

	protected face(key: string): FaceModel | undefined {
		return this.model?.faces.find((f) => f.key === key);
	}

	/** What is loaded with the first question that wants it, and kept; asked for again where it did not come. */
	protected askedLater() {
		return import('./askedLater.ts').catch((cause: unknown) => {
			throw new Error('A part of the application did not arrive. Nothing is lost; load the page again.', { cause });
		});
	}
}
