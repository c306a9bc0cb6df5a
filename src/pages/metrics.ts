import type { APIRoute } from 'astro';
import { metricsText } from '@/server/metrics';
import { problemOf } from '@/server/problem';
import { requireRole } from '@/service/people/sign-ins';

export const prerender = false;

export const GET: APIRoute = async ({ locals }) => {
	try {
		requireRole(locals.asker, 'grower');
		const { type, text } = await metricsText();
		return new Response(text, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
	} catch (error) {
		return problemOf(error);
	}
};
