import { z } from 'zod';
import { ROLES } from '@/core/roles/roles';
import { name } from './fields';
import { resource } from './operation';
import { zone } from './site';
import { wire } from './wire';

const shown = wire({
	id: z.number().describe('goes as X-Cordwain-Site, or as site in the address'),
	name: z.string(),
	role: z.enum(ROLES),
	here: z.boolean().describe('the one that this request is for'),
});

export const sites = resource(
	'Sites',
	{
		'GET /sites': { summary: 'The sites that one may come to', answer: z.object({ sites: z.array(shown) }) },
		'POST /sites': {
			summary: 'Makes one more site, with nothing in it yet; for whoever was named first',
			body: z.strictObject({ name, timezone: zone }),
			answer: z.object({ id: z.number() }),
			status: 201,
		},
	},
	{ ofInstallation: true },
);
