import { convertSchema } from '@sodaru/yup-to-json-schema';
import type { Schema } from 'yup';
import {
  actionSchemas,
  changesSchema,
  endedSchema,
  fileSchema,
  findSchema,
  recordSchema,
  seenSchema,
  settingsSchema,
} from '@back-again/contract';
import { calendarSchema, takeInSchema, waySchema } from '@back-again/contract/doors';
import {
  pastDaySchema,
  pastDaysSchema,
  pastTodoSchema,
  totalsSchema,
} from '@back-again/contract/past';
import { escaped } from '../html.ts';

/** The interface for a person’s own scripts, as OpenAPI 3.1 and as a page: made of the schemas that check it. */

interface Operation {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  says: string;
  /** What stands in the address behind `?`. */
  query?: unknown;
  body?: unknown;
  /** The type of what is answered, where that is not JSON. */
  type?: string;
  /** Which keys may. */
  reach: 'read' | 'finish' | 'all' | 'none';
}

const schemaOf = (schema: unknown): object => convertSchema(schema as Schema as never) as object;

const OPERATIONS: Operation[] = [
  { method: 'get', path: '/now', says: 'The server’s time.', reach: 'none' },
  {
    method: 'get',
    path: '/session',
    says: 'The account: its address and settings.',
    reach: 'none',
  },
  {
    method: 'get',
    path: '/today',
    says: 'Today: what is late, due, underway, put off, and what comes back soon.',
    reach: 'read',
  },
  {
    method: 'get',
    path: '/changes',
    says: 'All to-dos and places as they stand, or those that changed since a version; a page at a time.',
    query: changesSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/todos/{id}',
    says: 'One to-do: what it says, its open times, what comes, and its record.',
    query: recordSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/record',
    says: 'What was written down with times that ended, by words.',
    query: findSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/ended',
    says: 'What ended from one day to another.',
    query: endedSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/past/day',
    says: 'A day as it was.',
    query: pastDaySchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/past/days',
    says: 'How much was done on each day.',
    query: pastDaysSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/past/todos/{id}',
    says: 'How a to-do was kept.',
    query: pastTodoSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/past/totals',
    says: 'Minutes and times by place, tag or span.',
    query: totalsSchema,
    reach: 'read',
  },
  {
    method: 'get',
    path: '/files/{id}',
    says: 'What is in a file.',
    type: 'application/octet-stream',
    reach: 'read',
  },
  { method: 'get', path: '/said', says: 'What was said: reminders and overviews.', reach: 'read' },
  {
    method: 'get',
    path: '/calendar.ics',
    says: 'To-dos as iCalendar (RFC 5545): one, those of a place, or all.',
    query: calendarSchema,
    type: 'text/calendar',
    reach: 'read',
  },
  {
    method: 'post',
    path: '/actions',
    says: 'Does something: finish, move, make, change … by what `do` says. The same `id` twice happens once. A key for finishing may send `done` and `tally`.',
    body: actionSchemas,
    reach: 'finish',
  },
  {
    method: 'post',
    path: '/take-in',
    says: 'Takes in to-dos with their records, as one action that `undo` takes back.',
    body: takeInSchema,
    reach: 'all',
  },
  {
    method: 'put',
    path: '/settings',
    says: 'Changes settings.',
    body: settingsSchema,
    reach: 'all',
  },
  {
    method: 'put',
    path: '/said/seen',
    says: 'Marks what was said as seen.',
    body: seenSchema,
    reach: 'all',
  },
  {
    method: 'post',
    path: '/files',
    says: 'Begins a file, which is then sent in pieces.',
    body: fileSchema,
    reach: 'all',
  },
  {
    method: 'get',
    path: '/everything',
    says: 'Everything as one zip.',
    type: 'application/zip',
    reach: 'all',
  },
  {
    method: 'get',
    path: '/ways/{secret}',
    says: 'What the way of its own of a to-do would do: no key needed.',
    reach: 'none',
  },
  {
    method: 'post',
    path: '/ways/{secret}',
    says: 'Finishes what is open of that to-do: no key needed. With the same `id` once.',
    body: waySchema,
    reach: 'none',
  },
  {
    method: 'get',
    path: '/feeds/{secret}.ics',
    says: 'The calendar to subscribe to, with ETag.',
    type: 'text/calendar',
    reach: 'none',
  },
];

const isOne = (it: unknown): it is Schema =>
  typeof (it as { describe?: unknown }).describe === 'function';

/** The schema of a body; of an action one for each `do`. */
function bodyOf(body: unknown): object {
  if (isOne(body)) return schemaOf(body);
  const each = Object.entries(body as Record<string, unknown>).map(([name, schema]) => {
    const it = schemaOf(schema) as { properties?: Record<string, unknown> };
    return { title: name, ...it, properties: { ...it.properties, do: { const: name } } };
  });
  return { oneOf: each, discriminator: { propertyName: 'do' } };
}

function parametersOf({ path, query }: Operation): object[] {
  const inPath = [...path.matchAll(/\{(\w+)\}/gu)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  if (!query) return inPath;
  const { properties = {}, required = [] } = schemaOf(query) as {
    properties?: Record<string, object>;
    required?: string[];
  };
  const inQuery = Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }));
  return [...inPath, ...inQuery];
}

const ERROR = {
  type: 'object',
  properties: {
    error: {
      type: 'object',
      required: ['code', 'message', 'where'],
      properties: {
        code: { type: 'string' },
        message: { type: 'string' },
        where: { type: 'string' },
      },
    },
  },
};

function operationOf(operation: Operation): object {
  const { says, body, type = 'application/json', reach } = operation;
  const parameters = parametersOf(operation);
  return {
    summary: says,
    ...(parameters.length ? { parameters } : {}),
    ...(body
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: bodyOf(body) } },
          },
        }
      : {}),
    security: reach === 'none' ? [] : [{ key: [] }],
    'x-key': reach,
    responses: {
      200: { description: 'So it is.', content: { [type]: { schema: {} } } },
      '4XX': {
        description:
          'What is wrong, and where; nothing has changed. 429 says in Retry-After when to try again.',
        content: { 'application/json': { schema: ERROR } },
      },
    },
  };
}

/** The interface as OpenAPI 3.1. */
export function interfaceOf(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of OPERATIONS)
    (paths[operation.path] ??= {})[operation.method] = operationOf(operation);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Back Again',
      version: '1',
      description:
        'For your own scripts. Make a key in Settings, Doors, and send it as “Authorization: Bearer …”. 300 requests a minute with one key.',
    },
    servers: [{ url: '/api' }],
    components: { securitySchemes: { key: { type: 'http', scheme: 'bearer' } } },
    paths,
  };
}

const KEYS = {
  read: 'any key',
  finish: 'a key for finishing or everything',
  all: 'a key for everything',
  none: 'no key',
};

/** The same to read. */
export function interfacePage(): string {
  const rows = OPERATIONS.map((operation) => {
    const { method, path, says, body, reach } = operation;
    const parameters = (
      parametersOf(operation) as { name: string; in: string; required: boolean }[]
    )
      .filter((it) => it.in === 'query')
      .map(({ name, required }) => `<code>${name}</code>${required ? '' : ' (may be left out)'}`);
    const schema = body
      ? `<details><summary>What is sent</summary><pre>${escaped(JSON.stringify(bodyOf(body), null, 1))}</pre></details>`
      : '';
    return `<section><h2><b>${method.toUpperCase()}</b> <code>/api${escaped(path)}</code></h2>
<p>${escaped(says)}</p><p class="k">With ${KEYS[reach]}.${parameters.length ? ` Asks: ${parameters.join(', ')}.` : ''}</p>${schema}</section>`;
  });
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Back Again: for your own scripts</title><style>
body{font:17px/1.5 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#1d2a2a;background:#fbf8f2}
h1{font-size:1.7rem}h2{font-size:1.05rem;margin:0 0 .3rem}section{border-top:1px solid #d9d2c4;padding:1rem 0}
p{margin:.2rem 0}.k{color:#54605f}pre{overflow:auto;font-size:.8rem;background:#f1ece1;padding:.8rem}code{font-size:.95em}
summary{cursor:pointer;padding:.6rem 0}
@media(prefers-color-scheme:dark){body{color:#e9e4d8;background:#182020}section{border-color:#3a4545}.k{color:#b3bab6}pre{background:#222c2c}a{color:#9fd0c7}}
</style></head><body><main><h1>For your own scripts</h1>
<p>Make a key in Settings, under Doors, and send it along: <code>Authorization: Bearer bak_…</code>. It opens what you chose, until you withdraw it.
All answers are JSON; what is wrong comes with a code, words and a place. With one key up to 300 requests a minute.</p>
<p>The same for programs: <a href="/api/openapi.json">openapi.json</a> (OpenAPI 3.1).</p>
${rows.join('\n')}
</main></body></html>`;
}
