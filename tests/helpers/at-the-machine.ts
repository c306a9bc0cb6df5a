import { AT_THE_MACHINE } from '@/service/people/sign-ins';

/** Whoever sits at a machine on which nobody has been named, at its first site. */
export const atTheMachine = (device: string | null = null) => ({
	asker: { ...AT_THE_MACHINE, site: { id: 1, name: 'Yard' } },
	device,
	connection: { from: '127.0.0.1', secure: false, here: true, host: '127.0.0.1', origin: 'http://127.0.0.1' },
});
