import { AT_THE_MACHINE } from '@/service/people/sign-ins';

/** Whoever sits at a machine on which nobody has been named. */
export const atTheMachine = (device: string | null = null) => ({
	asker: AT_THE_MACHINE,
	device,
	connection: { from: '127.0.0.1', secure: false, here: true, host: '127.0.0.1', origin: 'http://127.0.0.1' },
});
