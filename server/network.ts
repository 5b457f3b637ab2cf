/** Why the server cannot start, in words for who starts it. */
export class StartFault extends Error {}

/** Whether an address or a name is this machine's own, which nobody else can reach. */
export function isLoopback(address: string): boolean {
  return /^(localhost|127(\.\d{1,3}){3}|::1|::ffff:127(\.\d{1,3}){3})$/.test(address)
}

/**
 * Whether a request that asks for `host` is meant for this server: by the address that it was connected to, or by the name
 * that it was given. Who comes over the network is not answered as this machine itself, whatever it says.
 */
export function answersTo(host: string, connectedTo: string | undefined, name: string | undefined): boolean {
  if (name && (host === name || host.replace(/:\d+$/, '') === name)) return true
  const asked = host.replace(/:\d+$/, '').replace(/^\[(.*)\]$/, '$1')
  if (connectedTo === undefined || isLoopback(connectedTo)) return isLoopback(asked)
  return asked === connectedTo.replace(/^::ffff:/, '')
}

/** Why the server must not listen at an address; undefined where it may. Nobody logs in, so who reaches it may do all. */
export function networkFault(host: string, allowed: string | undefined): string | undefined {
  if (isLoopback(host) || allowed === '1') return undefined
  return `MAKREL_HOST=${host} would open all parts to everyone on the network, for there is no login; set MAKREL_ALLOW_NETWORK=1 as well if that is meant.`
}
