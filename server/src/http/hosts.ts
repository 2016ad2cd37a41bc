/** Names a server always answers to. */
const OWN = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * The host names a server answers to, without port and in lower case.
 * @param host that it listens at. @param more further names as people write them: `a.example, B.example:4600, http://c.example`
 */
export function allowedHosts(host: string, more = ''): ReadonlySet<string> {
  const named = more.split(',').flatMap((one) => hostname(one) ?? []);
  return new Set([...OWN, ...(hostname(host) ? [hostname(host) as string] : []), ...named]);
}

/** The name in what somebody wrote as a host: without port, scheme and blanks; undefined where there is none. */
function hostname(text: string): string | undefined {
  const bare = text.trim().replace(/^\w+:\/\//, '');
  if (bare === '') return undefined;
  // An IPv6 address without brackets has more than one colon.
  const address = /^[^[\]]*:[^[\]]*:/.test(bare) ? `[${bare}]` : bare;
  return URL.canParse(`http://${address}`) ? new URL(`http://${address}`).hostname : undefined;
}
