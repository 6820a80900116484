import { getContext, setContext } from 'svelte';
import type { Workspace } from './workspace.svelte.ts';

const KEY = Symbol('workspace');

/** What a form needs that changes the project: the editor, the document, and the face that is worked on. */
export type Editing = Pick<Workspace, 'editor' | 'project' | 'face'>;

export const provideWorkspace = (workspace: Workspace) => setContext(KEY, workspace);
export const useWorkspace = () => getContext<Workspace>(KEY);
/** For views that need no more of the workspace. */
export const useEditing = (): Editing => useWorkspace();
