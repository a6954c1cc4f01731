import { DEMO_PASSWORD, DEMO_PEOPLE } from '@dusk-tally/lab/people';

/** Signs in through the page's own form. @returns the session cookie. */
export async function signIn(address: string): Promise<string> {
  const page = await (await fetch(`${address}/sign-in`)).text();
  const form = new FormData();
  for (const [, name, value] of page.matchAll(
    /<input type="hidden" name="([^"]+)"(?: value="([^"]*)")?/g,
  ))
    form.set(name!, (value ?? '').replaceAll('&quot;', '"').replaceAll('&amp;', '&'));
  form.set('email', DEMO_PEOPLE[0]!.email);
  form.set('password', DEMO_PASSWORD);
  const response = await fetch(`${address}/sign-in`, {
    method: 'POST',
    body: form,
    redirect: 'manual',
    headers: { origin: address },
  });
  const cookie = response.headers.get('set-cookie')?.split(';')[0];
  if (!cookie) throw new Error(`Could not sign in (status ${response.status}).`);
  return cookie;
}
