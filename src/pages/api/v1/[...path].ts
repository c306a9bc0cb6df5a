import type { APIRoute } from 'astro';
import { dispatch } from '@/server/operation';
import { operations } from '@/server/routes';

export const prerender = false;

export const ALL: APIRoute = ({ params, request, locals }) =>
	dispatch(operations, `/${params.path ?? ''}`, request, locals.who);
