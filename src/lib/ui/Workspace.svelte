<script lang="ts">
	import { onMount } from 'svelte';
	import { afterNavigate, replaceState } from '$app/navigation';
	import { page } from '$app/state';
	import type { ModelRunner } from '$lib/editor/modelRunner.svelte.ts';
	import { isPlace, PLACES } from '$lib/editor/places.ts';
	import { valueAt } from '$lib/editor/paths.ts';
	import { ProjectEditor } from '$lib/editor/projectEditor.svelte.ts';
	import { provideWorkspace } from '$lib/editor/context.ts';
	import { Workspace } from '$lib/editor/workspace.svelte.ts';
	import type { Project } from '$core/project/schema.ts';
	import CommandList from './CommandList.svelte';
	import FaceTree from './FaceTree.svelte';
	import Later from './Later.svelte';
	import { bringLater, LATER } from './later.ts';
	import MassPlace from './places/MassPlace.svelte';
	import LevelsPanel from './mass/LevelsPanel.svelte';
	import PlaceWarnings from './PlaceWarnings.svelte';
	import SeveralFaces from './SeveralFaces.svelte';
	import SaveBanner from './SaveBanner.svelte';
	import ScheduleDrawer from './ScheduleDrawer.svelte';
	import SpacePane from './SpacePane.svelte';
	import TopStrip from './TopStrip.svelte';

	interface Props {
		readonly id: string;
		readonly document: Project;
		readonly revision: number;
		readonly actor: string;
		/** It may be at work already. */
		readonly runner: ModelRunner;
	}
	let { id, document, revision, actor, runner }: Props = $props();

	// Made anew for each project.
	// svelte-ignore state_referenced_locally
	const editor = new ProjectEditor(id, document, revision, actor);
	// svelte-ignore state_referenced_locally
	const work = provideWorkspace(new Workspace(editor, runner));
	let commandsOpen = $state(false);

	const asked = page.url.searchParams.get('place');
	if (isPlace(asked)) work.place = asked;

	onMount(() => {
		void editor.open();
		return () => work.close();
	});

	$effect(() => work.runner.request(work.project, editor.settled, editor.settled ? editor.undoLabel : undefined));
	// The router takes no other address before the first one has arrived.
	let arrived = $state(false);
	afterNavigate(() => (arrived = true));
	$effect(() => {
		if (!arrived) return;
		const address = new URL(page.url);
		if (address.searchParams.get('place') === work.place) return;
		address.searchParams.set('place', work.place);
		replaceState(address, {});
	});

	/** The drawing under way, while its line is still there to be drawn. */
	const drawing = $derived.by(() => {
		const {
			drawing,
			place,
			face: { current }
		} = work;
		if (!drawing || place !== 'mass' || drawing.mass !== current?.mass.id) return undefined;
		const line = valueAt(current.mass.shape, drawing.path) as { kind?: string } | undefined;
		return line?.kind === 'drawn' ? drawing : undefined;
	});

	/** The unit that is edited, while its tiling is still there. */
	const unitEdit = $derived(work.place === 'tiling' && work.unitEdit?.tiling ? work.unitEdit : undefined);
	const importing = $derived(work.place === 'mass' ? work.importing : undefined);

	const developed = $derived(
		work.flat.layout !== 'off' && !drawing && !importing && !unitEdit && work.face.current !== undefined
	);
	const split = $derived(
		work.place === 'kits'
			? ''
			: developed
				? work.flat.layout === 'beside'
					? 'grid-cols-2 grid-rows-1'
					: 'grid-rows-2 grid-cols-1'
				: drawing || importing || unitEdit
					? 'grid-cols-[1fr_46%]'
					: ''
	);

	/** Which of the two pictures have been looked at. */
	const seen = $state({ model: false, bench: false });
	$effect.pre(() => {
		if (work.place === 'kits') seen.bench = true;
		else seen.model = true;
	});

	const needsFace = $derived(['mass', 'setting-out', 'tiling', 'placement'].includes(work.place));
	const PLACE = {
		'setting-out': LATER.settingOut,
		tiling: LATER.tiling,
		kits: LATER.kits,
		placement: LATER.placement,
		schedule: LATER.schedule,
		handover: LATER.handover
	};
	const onPaper = $derived(work.place === 'handover' && work.sheets.sheet !== undefined);
	const onFile = $derived(work.place === 'handover' && !onPaper && work.file.open !== undefined);
	const noDrawer = $derived(work.place === 'kits' || onPaper || onFile);
	const drawer = $derived(
		!work.drawerOpen ? '33px' : work.drawer === 'readings' ? '272px' : work.place === 'schedule' ? '62%' : '212px'
	);
	let brought = false;
	$effect(() => {
		if (brought || !work.runner.view) return;
		brought = true;
		// When the picture has been drawn.
		setTimeout(bringLater, 500);
	});
	// Values and triangles live in the worker: asked for when somebody looks at them.
	const { readings } = work;
	$effect(() => {
		const { view } = work.runner;
		if (view && (readings.coloured || (work.drawerOpen && work.drawer === 'readings')))
			void readings.refresh(view, readings.name);
	});
	$effect(() => {
		const { view } = work.runner;
		if (view && readings.coloured) void readings.refreshMeshes(view);
	});
</script>

<svelte:head><title>{work.project.name} · Zygaster</title></svelte:head>

<div class="flex h-screen flex-col overflow-hidden">
	<TopStrip oncommands={() => (commandsOpen = true)} />
	<SaveBanner />
	<div
		class="grid min-h-0 flex-1 grid-cols-[320px_1fr]"
		style="grid-template-rows: minmax(0, 1fr) {noDrawer ? '0px' : drawer}"
	>
		<aside class="row-span-2 flex min-h-0 flex-col overflow-hidden border-r border-rule bg-sheet">
			{#if work.place !== 'kits'}<FaceTree />{/if}
			<section class="min-h-0 flex-1 overflow-auto px-3.5 py-2.5" aria-label={PLACES[work.place].label}>
				{#if !needsFace || work.face.current}
					{#if needsFace && work.place !== 'mass' && work.face.current && !work.face.current.face.facade}
						<p class="mb-2 rounded border border-rule bg-paper px-2.5 py-1.5 text-small text-soft" role="status">
							This face is not part of the facade, so that nothing stands on it. Its switch is under Mass.
						</p>
					{/if}
					{#if work.face.all.length > 1 && ['setting-out', 'tiling', 'placement'].includes(work.place)}<SeveralFaces
						/>{/if}
					{#key work.place === 'mass' ? work.face.current?.mass.id : work.face.current?.key}
						{#if work.place === 'mass'}<MassPlace />{:else}<Later part={PLACE[work.place]} />{/if}
					{/key}
				{:else}
					<p class="text-soft">There is no face yet. Add a mass above; its faces are divided here.</p>
				{/if}
				{#if work.place === 'mass'}<LevelsPanel />{/if}
				<PlaceWarnings />
			</section>
		</aside>
		<div class="relative grid min-h-0 min-w-0 {split}" style={split ? '' : 'grid-template: 1fr / 1fr'}>
			<!-- Both keep their pictures: making one anew, with all its shaders, takes seconds. -->
			{#if seen.model}<div class={work.place === 'kits' ? 'hidden' : 'contents'}><SpacePane /></div>{/if}
			{#if seen.bench}<div class={work.place === 'kits' ? 'contents' : 'hidden'}><Later part={LATER.bench} /></div>{/if}
			{#if work.place === 'kits'}{:else if developed}<Later
					part={LATER.developed}
				/>{:else if unitEdit}{#key unitEdit}<Later
						part={LATER.unit}
						given={{ edit: unitEdit }}
					/>{/key}{:else if importing}<Later
					part={LATER.imports}
					given={{ state: importing }}
				/>{:else if drawing}{#key drawing}<Later part={LATER.curve} given={{ drawing }} />{/key}{/if}
			{#if onPaper}<Later part={LATER.sheet} />{:else if onFile}<Later part={LATER.file} />{/if}
			{#if work.revisions.open}<Later part={LATER.revisions} />{/if}
		</div>
		<div class="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)]">
			{#if !noDrawer}<ScheduleDrawer />{/if}
		</div>
	</div>
</div>
<CommandList bind:open={commandsOpen} />
