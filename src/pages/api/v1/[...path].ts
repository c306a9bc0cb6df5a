import type { APIRoute } from 'astro';
import { dispatch } from '@/server/dispatch';
import { routes } from '@/server/routes';

export const prerender = false;

export const ALL: APIRoute = ({ params, request, locals }) =>
	dispatch(routes, `/${params.path ?? ''}`, request, locals);
