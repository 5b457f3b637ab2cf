/** Bad input: told on standard error, exit code 2. */
export class InputError extends Error {}
