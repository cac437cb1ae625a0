import { createServer, type IncomingMessage, type Server } from 'node:http';
import { createServer as createTcp, type AddressInfo, type Socket } from 'node:net';
import { createHmac, randomUUID } from 'node:crypto';
import { SMTPServer, type SMTPServerOptions } from 'smtp-server';
import { configFrom } from '../config.ts';
import { Client, halvesOf, startTestServer } from '../testing/harness.ts';
import { read } from '@back-again/core/reading';
import type { OutboxView } from '@back-again/contract';
import { Refused, type Outgoing } from './carrier.ts';
import { htmlOf, makeMail } from './mail.ts';
import { makeText } from './text.ts';

// E-mail and text messages that leave the machine, as far as loopback: SMTP by a library, HTTP by Node.

const message = (address = 'someone@example.org'): Outgoing => ({
  id: randomUUID(),
  userId: randomUUID(),
  channel: 'email',
  address,
  subject: 'Check the bilge, due Tue 1 Jun',
  text: 'Check the bilge is due.\n\nOpen it: http://127.0.0.1/todo/a?b=1&c=2\nDone, without signing in: http://127.0.0.1/finish/d',
  stop: 'http://127.0.0.1/api/no-mail/e',
});

/** An SMTP server on loopback that keeps what it got. */
async function smtp(options: SMTPServerOptions = {}) {
  const got: string[] = [];
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    onData(stream, _session, done) {
      let text = '';
      stream.on('data', (piece: Buffer) => (text += piece.toString()));
      stream.on('end', () => {
        got.push(text);
        done();
      });
    },
    ...options,
  });
  server.on('error', () => undefined);
  const sockets = new Set<Socket>();
  server.server.on('connection', (socket) => sockets.add(socket));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.server.address() as AddressInfo;
  const carrier = makeMail({
    url: `smtp://127.0.0.1:${port}`,
    from: 'Back Again <reminders@example.org>',
  });
  return {
    got,
    port,
    carrier,
    sockets,
    async stop() {
      carrier.close?.();
      await new Promise<void>((resolve) => server.close(() => resolve()));
    },
  };
}

const unfolded = (mail: string) => mail.replace(/\r\n[ \t]/gu, ' ');

describe('e-mail by SMTP', () => {
  test('text and HTML, our id as its Message-ID, and a way to stop it', async () => {
    const { got, carrier, stop } = await smtp();
    try {
      const it = message();
      await carrier.send(it);
      const mail = unfolded(got[0]!);
      // RFC 5322 §3.6.4, RFC 2369 §3.2, RFC 8058 §3.1.
      expect(mail).toContain(`Message-ID: <${it.id}@example.org>`);
      expect(mail).toContain('List-Unsubscribe: <http://127.0.0.1/api/no-mail/e>');
      expect(mail).toContain('List-Unsubscribe-Post: List-Unsubscribe=One-Click');
      expect(mail).toContain('To: someone@example.org');
      expect(mail).toContain('Content-Type: text/plain');
      expect(mail).toContain('Content-Type: text/html');
    } finally {
      await stop();
    }
  });

  test('what a person wrote is text in the HTML too', () => {
    const html = htmlOf('<script>alert(1)</script> & more\n\nOpen it: http://127.0.0.1/a?b=1&c="2');
    expect(html).toContain('<p>&lt;script&gt;alert(1)&lt;/script&gt; &amp; more</p>');
    expect(html).toContain('<a href="http://127.0.0.1/a?b=1&amp;c=&quot;2">Open it</a>');
  });

  test('an address that is refused for good is given up; another is sent', async () => {
    const { got, carrier, stop } = await smtp({
      onRcptTo({ address }, _session, done) {
        const refused = Object.assign(new Error('No such mailbox'), { responseCode: 550 });
        done(address.startsWith('nobody') ? refused : null);
      },
    });
    try {
      await expect(carrier.send(message('nobody@example.org'))).rejects.toThrow(Refused);
      await carrier.send(message());
      expect(got).toHaveLength(1);
    } finally {
      await stop();
    }
  });

  test('refused for now is tried again, and so is one whose server lets nobody in', async () => {
    const { carrier, stop } = await smtp({
      onRcptTo(_address, _session, done) {
        done(Object.assign(new Error('Come back later'), { responseCode: 451 }));
      },
    });
    try {
      const error = await carrier.send(message()).catch((it: unknown) => it);
      expect(error).toBeInstanceOf(Error);
      expect(error).not.toBeInstanceOf(Refused);
    } finally {
      await stop();
    }
  });

  test('a line that is cut after the message was taken: handed over again, it is the same message', async () => {
    const all: string[] = [];
    const { carrier, sockets, stop } = await smtp({
      onData(stream, _session, done) {
        let text = '';
        stream.on('data', (piece: Buffer) => (text += piece.toString()));
        stream.on('end', () => {
          all.push(unfolded(text));
          // The first is cut once the message is there, before it is answered.
          if (all.length === 1) sockets.forEach((it) => it.destroy());
          else done();
        });
      },
    });
    try {
      const it = message();
      await expect(carrier.send(it)).rejects.toThrow();
      await carrier.send(it);
      const id = (mail: string) => /^Message-ID: (.*?)\r?$/mu.exec(mail)?.[1];
      expect(all.map(id)).toEqual([`<${it.id}@example.org>`, `<${it.id}@example.org>`]);
    } finally {
      await stop();
    }
  });

  test('a server that does not greet is not waited for', async () => {
    const server = createTcp();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const limits = { connectionTimeout: 200, greetingTimeout: 200, socketTimeout: 200 };
    const carrier = makeMail({ url: `smtp://127.0.0.1:${port}`, from: 'a@example.org' }, limits);
    try {
      const error = await carrier.send(message()).catch((it: unknown) => it);
      expect(error).toMatchObject({ code: 'ETIMEDOUT' });
      expect(error).not.toBeInstanceOf(Refused);
    } finally {
      carrier.close?.();
      await new Promise((resolve) => server.close(resolve));
    }
  });
});

/** A service for text messages on loopback. */
async function service(answer: (request: IncomingMessage, body: string) => number | null) {
  const got: { headers: IncomingMessage['headers']; body: string }[] = [];
  const server: Server = createServer((request, response) => {
    let body = '';
    request.on('data', (piece: Buffer) => (body += piece.toString()));
    request.on('end', () => {
      got.push({ headers: request.headers, body });
      const status = answer(request, body);
      if (status !== null) response.writeHead(status).end();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return {
    got,
    url: `http://127.0.0.1:${port}/messages`,
    async stop() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

describe('text messages by an address of the operator’s', () => {
  const AT = Date.parse('2027-06-01T10:00:00Z');
  const text = (): Outgoing => ({ ...message('+441632960000'), channel: 'text' });

  test('JSON with the id, signed together with the time', async () => {
    const { got, url, stop } = await service(() => 204);
    try {
      const it = text();
      await makeText({ url, secret: 'shared' }, () => AT).send(it);
      const [{ headers, body } = { headers: {}, body: '' }] = got;
      expect(JSON.parse(body)).toEqual({ id: it.id, to: it.address, text: it.text });
      expect(headers['idempotency-key']).toBe(it.id);
      // RFC 2104, with SHA-256, made anew here.
      const mac = createHmac('sha256', 'shared')
        .update(`${AT / 1000}.${body}`)
        .digest('hex');
      expect(headers['back-again-signature']).toBe(`t=${AT / 1000}, hmac-sha256=${mac}`);
    } finally {
      await stop();
    }
  });

  test.each([
    [422, true],
    [400, true],
    [500, false],
    [429, false],
    [302, false],
  ])('an answer of %i: given up is %s', async (status, isGivenUp) => {
    const { url, stop } = await service(() => status);
    try {
      const sent = makeText({ url, secret: 'shared' }, () => AT).send(text());
      const error = await sent.catch((it: unknown) => it);
      expect(error).toBeDefined();
      expect(error instanceof Refused).toBe(isGivenUp);
    } finally {
      await stop();
    }
  });

  test('an answer that comes after the limit counts as lost', async () => {
    const { got, url, stop } = await service(() => null);
    try {
      const sent = makeText({ url, secret: 'shared' }, () => AT, 200).send(text());
      await expect(sent).rejects.toMatchObject({ name: 'TimeoutError' });
      expect(got).toHaveLength(1);
    } finally {
      await stop();
    }
  });
});

describe('the server with mail of its own', () => {
  test('a reminder goes out, and whoever gets it stops it without signing in', async () => {
    const { got, port, stop } = await smtp();
    const running = await startTestServer('2027-06-01T10:00:00Z', {
      mail: { url: `smtp://127.0.0.1:${port}`, from: 'Back Again <reminders@example.org>' },
    });
    try {
      const client = await new Client(running.url).register();
      const settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO', channels: ['email'] };
      expect((await client.send('PUT', '/settings', settings)).status).toBe(200);
      const said = read('Check the bilge every day at 11, remind me at 11', '2027-06-01').series;
      const halves = halvesOf(said);
      await client.send('POST', '/actions', {
        ...{ id: randomUUID(), do: 'create', todo: randomUUID() },
        ...halves,
      });
      running.now.set(Date.parse('2027-06-01T11:00:01Z'));
      await running.clock.tick();
      await running.sender.tick();
      expect(got).toHaveLength(1);
      const outbox = await client.send<OutboxView>('GET', '/outbox');
      expect(outbox.body.leaves).toEqual(['email']);
      expect(outbox.body.messages).toMatchObject([{ state: 'sent', arrived: null }]);

      const [, link] = /List-Unsubscribe: <(.*?)>/u.exec(unfolded(got[0]!))!;
      // Looking at it changes nothing.
      expect(await (await fetch(link!)).text()).toContain('Stop it');
      // RFC 8058 §3.2: a form with one field, from anywhere, with no cookie.
      const body = new URLSearchParams({ 'List-Unsubscribe': 'One-Click' });
      expect((await fetch(link!, { method: 'POST', body })).status).toBe(200);
      expect((await fetch(`${link}x`, { method: 'POST', body })).status).toBe(404);
      const once = (await client.send<{ settings: object }>('GET', '/session')).body.settings;
      expect(once).toMatchObject({ channels: [], noMail: true });

      running.now.set(Date.parse('2027-06-02T11:00:01Z'));
      await running.clock.tick();
      await running.sender.tick();
      expect(got).toHaveLength(1);

      // Another setting leaves it as it is; choosing e-mail brings it back.
      await client.send('PUT', '/settings', { ...settings, channels: [], dayStart: '04:00' });
      const still = (await client.send<{ settings: object }>('GET', '/session')).body.settings;
      expect(still).toMatchObject({ noMail: true });
      await client.send('PUT', '/settings', settings);
      running.now.set(Date.parse('2027-06-03T11:00:01Z'));
      await running.clock.tick();
      await running.sender.tick();
      expect(got).toHaveLength(2);
    } finally {
      await running.stop();
      await stop();
    }
  });
});

test.each([
  [{ SMTP_URL: 'http://127.0.0.1' }, 'SMTP_URL'],
  [{ SMTP_URL: 'smtp://127.0.0.1' }, 'MAIL_FROM'],
  [{ TEXT_URL: 'https://text.example.org' }, 'TEXT_SECRET'],
  [{ TEXT_URL: 'ftp://text.example.org' }, 'TEXT_URL'],
])('%j is told by the name of what is wrong', (env, name) => {
  const base = { DATABASE_URL: 'mariadb://a@localhost/b', SESSION_SECRET: 'c' };
  expect(() => configFrom({ ...base, ...env })).toThrow(name);
});
