<script lang="ts">
	interface Props {
		label: string;
		value: string;
		help?: string;
		/** The label stands above, so that the text has more room. */
		wide?: boolean;
		/** Accepts a text; answers what is wrong with it. */
		oncommit: (value: string) => string | undefined;
	}

	let { label, value, help, wide = false, oncommit }: Props = $props();

	const id = $props.id();
	let error = $state<string>();

	function accept(input: HTMLInputElement) {
		error = input.value.trim() === value ? undefined : oncommit(input.value.trim());
	}
</script>

<div class="my-1.5 grid items-center gap-x-2 {wide ? '' : 'grid-cols-[96px_1fr]'}">
	<label for={id} class="text-soft" title={help}>{label}</label>
	<input
		{id}
		class="field"
		{value}
		autocomplete="off"
		aria-invalid={error ? 'true' : undefined}
		onblur={(e) => accept(e.currentTarget)}
		onkeydown={(e) => {
			if (e.key === 'Enter') accept(e.currentTarget);
			if (e.key === 'Escape') {
				e.currentTarget.value = value;
				error = undefined;
			}
		}}
	/>
	{#if error}<p class="{wide ? '' : 'col-span-2'} mt-1 text-small whitespace-pre-line text-rust" role="alert">
			{error}
		</p>{/if}
</div>
