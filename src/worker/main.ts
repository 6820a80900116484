import { alone } from '../lib/server/database/alone.ts';
import { connect } from '../lib/server/database/connect.ts';
import { migrateToLatest } from '../lib/server/database/migrate.ts';
import { Workshop, workshopLimits } from '../lib/server/handover/workshop.ts';

// Makes files that are ordered anywhere with the same database: `npm run worker`, on this machine or another.
const url = process.env.DATABASE_URL;
if (!url) {
	console.error('DATABASE_URL is not set; right would be the connection string that the server has.');
	process.exit(2);
}
const limits = workshopLimits();
if (!limits) {
	console.error('ORDER_LANES is 0, so that there is nothing to do; right would be 1 or more.');
	process.exit(2);
}
const db = connect(url);
await alone(url, () => migrateToLatest(db));
const workshop = new Workshop(db, url, limits);
console.log(`Files are made, ${limits.lanes} at once. Ctrl-C stops it.`);
const stop = async () => {
	await workshop.close();
	await db.destroy();
};
process.once('SIGINT', () => void stop());
process.once('SIGTERM', () => void stop());
