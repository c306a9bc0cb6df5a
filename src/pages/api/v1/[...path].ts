import type { APIRoute } from 'astro';
import { pathOf } from '@/server/address';
import { dispatch } from '@/server/dispatch';
import { routes } from '@/server/routes';

export const prerender = false;

const ROOT = '/api/v1';

export const ALL: APIRoute = ({ request, locals }) =>
	dispatch(routes, pathOf(request).slice(ROOT.length), request, locals);
