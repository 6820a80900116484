import { readFileSync } from 'node:fs';
import { readProject } from '../src/core/project/read.ts';
import { PROGRAM } from '../src/lib/server/actor.ts';
import { alone } from '../src/lib/server/database/alone.ts';
import { connect } from '../src/lib/server/database/connect.ts';
import { migrateToLatest } from '../src/lib/server/database/migrate.ts';
import { createProject } from '../src/lib/server/projects.ts';

/** The demo always has this address, so that a second start adds nothing and a deleted demo stays deleted. */
const DEMO_ID = '5a110000-0000-4000-8000-000000000001';

const db = connect(process.env.DATABASE_URL!);
await alone(process.env.DATABASE_URL!, () => migrateToLatest(db));
await createProject(PROGRAM, db, readProject(readFileSync('examples/sallow-reach.json', 'utf8')), DEMO_ID);
await db.destroy();
