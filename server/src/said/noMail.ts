import { Router } from 'express';
import { changeSettings } from '../account/settings.ts';
import { userById } from '../account/users.ts';
import type { Context } from '../http/context.ts';

/**
 * The link in each mail by which whoever gets it says that they want no more (RFC 8058): a POST, by a mail program
 * or by the button of the page, stops it; looking at it changes nothing. It comes from anywhere, with no cookie.
 */
export function noMailRoutes({
  db,
  live,
  links,
  now,
}: Pick<Context, 'db' | 'live' | 'links' | 'now'>): Router {
  const router = Router();
  router.get('/:token', async (request, response) => {
    const user = await userOf(request.params.token);
    if (!user) return response.status(404).send(page(NO_LINK));
    if (user.settings.noMail) return response.send(page(STOPPED));
    return response.send(
      page(
        'No more e-mail from Back Again?',
        '<form method="post"><button>Stop it</button></form>',
      ),
    );
  });
  router.post('/:token', async (request, response) => {
    const user = await userOf(request.params.token);
    if (!user) return response.status(404).send(page(NO_LINK));
    if (!user.settings.noMail) {
      const { channels = [] } = user.settings;
      await changeSettings(
        db,
        user,
        { ...user.settings, channels: channels.filter((it) => it !== 'email'), noMail: true },
        now(),
      );
      live.tell(user.id, user.version + 1);
    }
    return response.send(page(STOPPED));
  });
  const userOf = async (token: string) => {
    const id = links.stopOf(token);
    return id === null ? null : userById(db, id);
  };
  return router;
}

const NO_LINK = 'This link was not made here, or not all of it came along.';
const STOPPED = 'No more e-mail is sent. In Settings it can be chosen again.';

/** A page that stands alone: whoever opens it need not be signed in. */
const page = (words: string, more = '') =>
  `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Back Again</title>
<style>body{font:18px/1.5 sans-serif;max-width:30em;margin:3em auto;padding:0 1em}button{font:inherit;padding:.7em 1.2em}</style>
<h1>Back Again</h1>
<p>${words}</p>
${more}
</html>
`;
