/** The description of the HTTP API (OpenAPI 3.1), made from the table of operations and the schemas that check them. */
import * as z from 'zod';
import { OPERATIONS, SCHEMAS, type SchemaName } from './operations';

type Json = Readonly<Record<string, unknown>>;
type Operation = (typeof OPERATIONS)[number];

/** The names of an address's parameters. */
const NAMED: Readonly<Record<string, string>> = {
  id: 'The resource, by its identifier',
  sheet: 'A sheet of the job, by its identifier',
  pull: 'A pull of the job, by its identifier',
};

/** The groups of operations, by the first part of an address. */
const GROUPS: Readonly<Record<string, string>> = {
  jobs: 'Jobs, files made from them, and their pulls',
  intake: 'Files of other kinds',
  faces: 'My faces',
  catalogue: 'The catalogue of faces',
  drill: 'Drill results and progress',
  recipes: 'Recipes: named settings for blocks',
  pictures: 'Pictures for backgrounds',
  preferences: 'Settings of the whole application',
  backups: 'Backups of all data',
  schema: 'File formats',
  'openapi.json': 'This description',
};

const groupOf = ({ path }: Operation): string => path.split('/')[1] ?? '';
const ref = (name: SchemaName): Json => ({ $ref: `#/components/schemas/${name}` });

/** The statuses that can be answered wherever something is named, sent or asked. */
const problemsOf = ({ path, body, query, problems }: Operation): Readonly<Partial<Record<number, SchemaName>>> => ({
  ...(body ? { 400: 'Problem', 413: 'Problem' } : {}),
  ...(path.includes(':') ? { 404: 'Problem' } : {}),
  ...(body || query || path.includes(':') ? { 422: 'Problem' } : {}),
  ...problems,
});

const WHY: Readonly<Record<number, string>> = {
  400: 'The request can’t be understood',
  403: 'Not allowed',
  404: 'Not found',
  409: 'Conflict; the detail says which',
  412: 'Someone else saved first; the response holds the current revision',
  413: 'Too large',
  415: 'Unsupported file type',
  422: 'Not valid; the detail says where',
  428: 'If-Match is missing',
};

/** The properties of a query's schema, whatever it is made of. */
function propertiesOf(schema: Json): [name: string, schema: Json][] {
  const parts = schema['allOf'] as Json[] | undefined;
  if (parts) return parts.flatMap(propertiesOf);
  return Object.entries((schema['properties'] ?? {}) as Record<string, Json>);
}

function requiredOf(schema: Json): string[] {
  const parts = schema['allOf'] as Json[] | undefined;
  return parts ? parts.flatMap(requiredOf) : ((schema['required'] ?? []) as string[]);
}

function parametersOf({ path, query, conditional }: Operation): Json[] {
  const named = [...path.matchAll(/:(\w+)/g)].map(([, name = '']) => ({
    name,
    in: 'path',
    required: true,
    description: NAMED[name],
    schema: { type: 'string' },
  }));
  const asked = query ? z.toJSONSchema(query, { io: 'input' }) : {};
  const required = requiredOf(asked);
  const queried = propertiesOf(asked).map(([name, schema]) => ({ name, in: 'query', required: required.includes(name), schema }));
  const headers = conditional
    ? [{ name: 'If-Match', in: 'header', required: true, description: 'The revision the write is based on, in quotes', schema: { type: 'string' } }]
    : [];
  return [...named, ...queried, ...headers];
}

const contentOf = (content: NonNullable<Operation['body']>): Json =>
  'json' in content
    ? { 'application/json': { schema: ref(content.json) } }
    : Object.fromEntries(content.media.map((media) => [media, { schema: { type: 'string', format: 'binary' } }]));

const problem = (name: SchemaName, status: number): Json => ({
  description: WHY[status],
  content: { 'application/problem+json': { schema: ref(name) } },
});

function operation(one: Operation): Json {
  const { id, says, body, answer } = one;
  const parameters = parametersOf(one);
  const done = answer.status === 204 ? { description: 'Done' } : { description: 'Done', content: contentOf(answer.content) };
  return {
    operationId: id,
    summary: says,
    tags: [groupOf(one)],
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(body ? { requestBody: { required: true, content: contentOf(body) } } : {}),
    responses: {
      [answer.status]: done,
      ...Object.fromEntries(Object.entries(problemsOf(one)).map(([status, name]) => [status, problem(name ?? 'Problem', Number(status))])),
      '4XX': { description: 'A problem (RFC 9457)', content: { 'application/problem+json': { schema: ref('Problem') } } },
    },
  };
}

/** Schemas that name each other, as the components they are. */
function schemas(): Json {
  const registry = z.registry<{ id: string }>();
  for (const [id, schema] of Object.entries(SCHEMAS)) registry.add(schema, { id });
  const { schemas: all } = z.toJSONSchema(registry, { io: 'input', uri: (id) => `#/components/schemas/${id}` });
  return Object.fromEntries(Object.entries(all).map(([id, { $schema: _dialect, $id: _address, ...schema }]) => [id, schema]));
}

/** The description, whole. */
export function openApi(): Json {
  const paths: Record<string, Record<string, Json>> = {};
  for (const one of OPERATIONS) {
    const path = one.path.replace(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [one.method]: operation(one) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Jentrix',
      version: '1',
      summary: 'Jobs, sheets and spacing for programs',
      description:
        'Every request is checked against these schemas. Errors are problems (RFC 9457) and change nothing. Only pages of this server may send requests from a browser.',
      license: { name: 'MIT', identifier: 'MIT' },
    },
    servers: [{ url: '/api' }],
    tags: [...new Set(OPERATIONS.map(groupOf))].map((name) => ({ name, description: GROUPS[name] })),
    security: [],
    paths,
    components: { schemas: schemas() },
  };
}
