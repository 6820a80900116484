import { ZygasterError } from '../../core/errors.ts';

/** Who asks: a person’s browser, or the program itself. */
export interface Actor {
	/** A UUID. */
	readonly id: string;
}

/** The program itself: seeding, upkeep. */
export const PROGRAM: Actor = { id: '00000000-0000-4000-8000-000000000000' };

export type Right = 'read' | 'edit' | 'delete';

/** Whether somebody may do something with a project. Until there is sign-in, everybody on this server may. */
export const access = (_actor: Actor, _project: string, _right: Right): boolean => true;

/** Throws a ZygasterError with code `forbidden` where `access` says no. */
export function mustHave(actor: Actor, project: string, right: Right): void {
	if (!access(actor, project, right))
		throw new ZygasterError('forbidden', `You may not ${right} this project; whoever owns it can allow it.`);
}
