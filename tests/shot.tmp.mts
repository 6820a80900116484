import { chromium } from 'playwright-core';
const B = 'http://127.0.0.1:4199',
	D = `${B}/projects/5a110000-0000-4000-8000-000000000001`;
const browser = await chromium.launch({
	executablePath: '/usr/bin/chromium',
	args: [
		'--no-sandbox',
		'--use-angle=swiftshader',
		'--enable-unsafe-swiftshader',
		'--disable-background-networking',
		'--disable-component-update',
		'--disable-sync',
		'--no-first-run',
		'--disable-quic'
	]
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log(m.text()));
await page.goto(`${D}?place=handover`);
await page.getByTestId('schedule-totals').waitFor();
await page.waitForTimeout(3000);
const open = async (name: string, shot: string, ms = 4000) => {
	await page.getByRole('region', { name, exact: true }).getByRole('button', { name, exact: true }).click();
	await page.waitForTimeout(ms);
	await page.screenshot({ path: `/tmp/${shot}.png` });
};
await open('Building model', 's1');
await open('Part list', 's2');
await open('Cut sheets as DXF', 's3', 9000);
await page
	.getByRole('region', { name: 'Panel schedule', exact: true })
	.getByRole('button', { name: 'Make and download' })
	.click();
await page.waitForTimeout(8000);
await open('Developed view as SVG', 's4', 6000);
await browser.close();
