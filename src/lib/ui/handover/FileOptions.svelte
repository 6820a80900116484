<script lang="ts">
	import { groupOf, optionsOf } from '$core/formats/fileOptions.ts';
	import type { Format } from '$core/formats/format.ts';
	import { readOptions } from '$core/formats/writers.ts';
	import { messageOf } from '$core/errors.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { choicesOf, readLengths } from '$lib/editor/fileChoices.ts';
	import Classification from './Classification.svelte';
	import MapPlace from './MapPlace.svelte';
	import TextField from '../TextField.svelte';

	interface Props {
		format: Format;
	}
	let { format }: Props = $props();

	type Value = boolean | number | string | (number | string)[];
	const work = useWorkspace();
	const choices = $derived(choicesOf(format));
	const chosen = $derived(optionsOf(work.project, format) as Record<string, Value | undefined>);
	/** Of choices that have no field to say it. */
	let error = $state<string>();
	/** Chooses a value, or none; answers what is wrong with it. */
	function choose(name: string, label: string, value: Value | undefined): string | undefined {
		try {
			readOptions(format, { ...chosen, [name]: value });
		} catch (cause) {
			return messageOf(cause);
		}
		return work.editor.commit(`Choose ${label.toLowerCase()}`, (draft) => {
			const of = (draft.handover.options[groupOf(format)] ??= {});
			if (value === undefined) Reflect.deleteProperty(of, name);
			else of[name] = value;
		});
	}
	const number = (text: string, most: number) => {
		const value = Number(text.replace(',', '.'));
		return text !== '' && value >= 0 && value <= most ? value : undefined;
	};
</script>

<section aria-label="Options" class="text-small">
	<h3 class="heading mb-1">Options</h3>
	{#each choices as choice (choice.name)}
		{@const value = chosen[choice.name] ?? choice.usual}
		{#if choice.kind === 'tick'}
			<label class="my-1 flex items-center gap-1.5" title={choice.help}
				><input
					type="checkbox"
					class="accent-patina"
					checked={value as boolean}
					onchange={(e) => (error = choose(choice.name, choice.label, e.currentTarget.checked))}
				/>{choice.label}</label
			>
		{:else if choice.kind === 'one'}
			<label class="my-1 grid grid-cols-[84px_1fr] items-center gap-x-2" title={choice.help}
				><span class="text-soft">{choice.label}</span>
				<select
					class="field"
					value={String(value)}
					onchange={(e) => {
						const text = e.currentTarget.value;
						error = choose(
							choice.name,
							choice.label,
							text === choice.none ? undefined : choice.numeric ? Number(text) : text
						);
					}}
				>
					{#each choice.of as { value, text } (value)}<option {value}>{text}</option>{/each}
				</select></label
			>
		{:else if choice.kind === 'several'}
			{@const list = value as readonly string[]}
			<fieldset class="my-1">
				<legend class="text-soft" title={choice.help}>{choice.label}</legend>
				<div class="grid grid-cols-2 gap-x-2">
					{#each choice.of as { value, text } (value)}
						<label class="flex items-center gap-1.5"
							><input
								type="checkbox"
								class="accent-patina"
								checked={list.includes(value)}
								onchange={(e) =>
									(error = choose(
										choice.name,
										choice.label,
										choice.of
											.map((o) => o.value)
											.filter((v) => (v === value ? e.currentTarget.checked : list.includes(v)))
									))}
							/>{text}</label
						>
					{/each}
				</div>
			</fieldset>
		{:else if choice.kind === 'lengths'}
			<TextField
				label={choice.label}
				help={choice.help ?? ''}
				value={(value as readonly number[]).join(', ')}
				oncommit={(text) => {
					const lengths = readLengths(text);
					return lengths
						? choose(choice.name, choice.label, lengths)
						: 'Lengths in mm up to 100 000, such as 6000, 4500.';
				}}
			/>
		{:else}
			<TextField
				label={choice.label}
				help={choice.help ?? ''}
				value={String(value)}
				oncommit={(text) => {
					const length = number(text, choice.most);
					return length === undefined
						? `A length from 0 to ${choice.most} mm.`
						: choose(choice.name, choice.label, length);
				}}
			/>
		{/if}
	{/each}
	{#if error}<p class="text-rust" role="alert">{error}</p>{/if}
	{#if format === 'ifc'}
		<MapPlace />
		<Classification />
	{:else if choices.length === 0}
		<p class="text-soft">There is nothing to choose for this file.</p>
	{/if}
</section>
