import { expect } from 'chai';
import { chromium, type Browser, type BrowserContext, type Locator, type Page } from 'playwright-core';
import type { Project } from '../../src/core/project/schema.ts';
import { demoProject } from '../unit/demo.ts';

export const base = process.env.ZYGASTER_URL!;

let browser: Browser | undefined;

/** One browser for all files; WebGL in software, nothing sent out. */
export async function startBrowser(): Promise<Browser> {
	browser ??= await chromium.launch({
		executablePath: '/usr/bin/chromium',
		args: [
			'--no-sandbox',
			'--use-angle=swiftshader',
			'--enable-unsafe-swiftshader',
			'--disable-quic',
			'--no-first-run',
			'--disable-background-networking',
			'--disable-component-update',
			'--disable-sync'
		]
	});
	return browser;
}

export async function stopBrowser(): Promise<void> {
	await browser?.close();
	browser = undefined;
}

/** A page whose errors fail the test that uses it; `expected` are those that it brings about itself. */
export async function openPage(context?: BrowserContext): Promise<{ page: Page; errors: string[] }> {
	const page = await (
		context ?? (await (await startBrowser()).newContext({ viewport: { width: 1280, height: 800 } }))
	).newPage();
	page.setDefaultTimeout(60_000);
	const errors: string[] = [];
	page.on('pageerror', (error) => errors.push(error.message));
	page.on('request', (request) => {
		if (!request.url().startsWith(base) && !/^(data|blob):/.test(request.url()))
			errors.push(`request to ${request.url()}`);
	});
	return { page, errors };
}

/** A page of its own for every test of a suite, whose errors fail the test. */
export function freshPages(): { readonly page: Page } {
	const at: { page: Page; errors: string[] } = { page: undefined as never, errors: [] };
	before(startBrowser);
	after(stopBrowser);
	beforeEach(async () => Object.assign(at, await openPage()));
	afterEach(async () => {
		expect(at.errors).deep.equal([]);
		await at.page.context().close();
	});
	return at;
}

export async function createProject(change: (p: Project) => void = () => undefined): Promise<string> {
	const project = demoProject();
	change(project);
	const response = await fetch(`${base}/api/projects`, {
		method: 'POST',
		headers: { 'content-type': 'application/json' },
		body: JSON.stringify(project)
	});
	expect(response.status).equal(201);
	return ((await response.json()) as { id: string }).id;
}

/** What the server has saved. */
export async function savedProject(id: string): Promise<Project> {
	const body = (await (await fetch(`${base}/api/projects/${id}`)).json()) as { document: Project };
	return body.document;
}

/** Opens a project and waits for its model. */
export async function openProject(page: Page, id: string, place = 'mass'): Promise<void> {
	await page.goto(`${base}/projects/${id}?place=${place}`);
	await page.getByTestId(place === 'kits' ? 'bench-state' : 'schedule-totals').waitFor();
}

/** Types a figure into a field and accepts it. */
export async function enter(page: Page, label: string, text: string): Promise<void> {
	const field = page.getByRole('spinbutton', { name: label, exact: true });
	await field.fill(text);
	await field.press('Enter');
}

export const saved = (page: Page) => page.getByTestId('save-state').getByText('Saved', { exact: true }).waitFor();

/** Waits until an element's text holds what is looked for. */
export async function shows(locator: Locator, text: string | RegExp): Promise<void> {
	await locator.filter({ hasText: text }).first().waitFor();
}

/** Waits until something holds; what fails last is told. */
export async function eventually(check: () => Promise<unknown>, ms = 30_000): Promise<void> {
	const until = Date.now() + ms;
	for (;;) {
		try {
			await check();
			return;
		} catch (cause) {
			if (Date.now() > until) throw cause;
			await new Promise((resolve) => setTimeout(resolve, 20));
		}
	}
}

/** Waits until an attribute of an element stays the same from frame to frame. */
export async function settles(locator: Locator, attribute: string): Promise<void> {
	await locator.first().evaluate(async (element, name) => {
		for (let before = '', same = 0; same < 20;) {
			await new Promise((resolve) => requestAnimationFrame(resolve));
			const now = element.getAttribute(name) ?? '';
			same = now !== '' && now === before ? same + 1 : 0;
			before = now;
		}
	}, attribute);
}
