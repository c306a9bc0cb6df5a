import type { Wanted } from '@/core/roles/roles';

/**
 * Whom each operation wants (core/roles). Every one that changes something and is not named wants a grower; what only looks wants a visitor
 * unless it is named.
 */
const VISITOR = [
	'POST /calc/acid',
	'POST /calc/base',
	'POST /calc/blend',
	'POST /calc/calibration',
	'POST /calc/compensate',
	'POST /calc/convert',
	'POST /calc/dilute',
	'POST /calc/drain',
	'POST /calc/extract',
	'POST /calc/loop-salt',
	'POST /calc/nutrient-dose',
	'POST /calc/oxygen',
	'POST /calc/restate',
	'POST /calc/standard',
	'POST /calc/storage-solution',
	'POST /calc/vapour',
	'POST /calc/water-report',
	'POST /mix/dose',
	'POST /readings/judge',
	'POST /reports/read',
	'POST /sheets/look',
	'POST /sign-out',
	'PUT /me',
	'POST /me/join',
	'DELETE /sign-ins/:id',
	'POST /passkeys/begin',
	'POST /passkeys',
	'DELETE /passkeys/:id',
] as const;

const HELPER = [
	'POST /attachments',
	'POST /batches',
	'POST /batches/:id/steps',
	'POST /calibrations',
	'POST /events',
	'POST /events/:id/correction',
	'POST /events/:id/withdrawal',
	'POST /irrigations',
	'POST /meters/:code/act',
	'POST /mix/jug',
	'POST /probe-events',
	'POST /readings',
	'POST /readings/:id/correction',
	'POST /readings/undo',
	'POST /rounds',
	'POST /rounds/:id/finish',
	'POST /watch/alerts/:id/snooze',
	'POST /watch/seen',
] as const;

/** What is asked before anybody is known, and what a node asks with a token of its own. */
const ANYBODY = [
	'GET /health',
	'GET /me',
	'GET /openapi.json',
	'GET /shared-device/people',
	'POST /ingest',
	'POST /passkeys/sign-in',
	'POST /passkeys/sign-in/begin',
	'POST /people/join',
	'POST /people/owner',
	'POST /shared-device/leave',
	'POST /shared-device/person',
	'POST /sign-in',
] as const;

/** Looked at by those alone who may change it. */
const GROWER_LOOKS = ['GET /people', 'GET /mailbox', 'GET /export.zip', 'GET /backups'] as const;

const TABLE = new Map<string, Wanted>([
	...VISITOR.map((o) => [o, 'visitor'] as const),
	...HELPER.map((o) => [o, 'helper'] as const),
	...ANYBODY.map((o) => [o, 'anybody'] as const),
	...GROWER_LOOKS.map((o) => [o, 'grower'] as const),
]);

/**
 * Whom an operation wants; what changes something and is not named wants a grower.
 * @example wantedBy('POST /readings') // 'helper'
 * @example wantedBy('PUT /site') // 'grower'
 */
export const wantedBy = (operation: string): Wanted =>
	TABLE.get(operation) ?? (operation.startsWith('GET ') ? 'visitor' : 'grower');
