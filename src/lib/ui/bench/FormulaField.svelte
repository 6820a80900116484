<script lang="ts">
	import { autocompletion, closeCompletion, completionKeymap, type Completion } from '@codemirror/autocomplete';
	import { history, historyKeymap, standardKeymap } from '@codemirror/commands';
	import { EditorState } from '@codemirror/state';
	import { EditorView, keymap, placeholder } from '@codemirror/view';
	import { onMount } from 'svelte';

	interface Props {
		label: string;
		help?: string;
		/** The formula, or a number as it is typed. */
		value: string;
		/** What is wrong with it as it stands. */
		fault?: string | undefined;
		hint?: string;
		/** Names and functions on offer. */
		completions: () => readonly Completion[];
		/** Accepts a text; answers what is wrong with it. */
		oncommit: (text: string) => string | undefined;
		wide?: boolean;
	}

	let { label, help = '', value, fault, hint = '', completions, oncommit, wide = false }: Props = $props();
	const id = $props.id();
	let place: HTMLDivElement;
	let error = $state<string>();
	let view: EditorView | undefined;

	function accept(text: string) {
		error = text.trim() === value ? undefined : oncommit(text.trim());
	}

	onMount(() => {
		const made = new EditorView({
			parent: place,
			state: EditorState.create({
				doc: value,
				extensions: [
					history(),
					placeholder(hint),
					autocompletion({
						// Enter accepts the text as it stands; an arrow key goes to what is on offer.
						selectOnOpen: false,
						override: [
							(context) => {
								const word = context.matchBefore(/[A-Za-z_][A-Za-z0-9_]*/);
								if (!word && !context.explicit) return null;
								return { from: word?.from ?? context.pos, options: [...completions()], validFor: /^[A-Za-z0-9_]*$/ };
							}
						]
					}),
					keymap.of([
						...completionKeymap,
						{ key: 'Enter', run: (v) => (closeCompletion(v), accept(v.state.doc.toString()), true) },
						{ key: 'Escape', run: (v) => (reset(v), true) },
						...historyKeymap,
						...standardKeymap
					]),
					// One line: a break is a blank.
					EditorState.transactionFilter.of((tr) => (tr.newDoc.lines > 1 ? [] : tr)),
					EditorView.contentAttributes.of({ id, 'aria-label': label }),
					EditorView.domEventHandlers({
						blur: (_, v) => void setTimeout(() => !v.hasFocus && accept(v.state.doc.toString()))
					})
				]
			})
		});
		view = made;
		return () => made.destroy();
	});

	function reset(v: EditorView) {
		error = undefined;
		v.dispatch({ changes: { from: 0, to: v.state.doc.length, insert: value } });
	}

	// Another step, or an undo: the field shows what stands there now.
	$effect(() => {
		const text = value;
		if (view && !view.hasFocus && view.state.doc.toString() !== text)
			view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
	});

	const shown = $derived(error ?? fault);
</script>

<div class="my-1 grid items-center gap-x-2 {wide ? '' : 'grid-cols-[96px_1fr]'}">
	<label for={id} class="text-soft" title={help}>{label}</label>
	<div
		bind:this={place}
		class="formula min-w-0 rounded border bg-paper focus-within:outline-2 focus-within:outline-patina {shown
			? 'border-rust'
			: 'border-control'}"
	></div>
	{#if shown}<p class="{wide ? '' : 'col-span-2'} mt-0.5 text-small whitespace-pre-line text-rust" role="alert">
			{shown}
		</p>{/if}
</div>

<style>
	.formula :global(.cm-editor) {
		outline: none;
		background: transparent;
	}
	.formula :global(.cm-scroller) {
		font-family: inherit;
		line-height: 1.35;
		overflow-x: auto;
		scrollbar-width: none;
	}
	.formula :global(.cm-content) {
		padding: 3px 0;
		caret-color: var(--ink);
	}
	.formula :global(.cm-line) {
		padding: 0 8px;
	}
	.formula :global(.cm-tooltip) {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--sheet);
		font-size: 12px;
	}
	.formula :global(.cm-tooltip-autocomplete > ul > li[aria-selected]) {
		background: var(--patina);
		color: white;
	}
</style>
