import type { TObject } from '@sinclair/typebox';
import { operations } from './operations.js';
import type { Operation } from './operation.js';
import { paramsOf } from './params.js';
import { Problem } from './shapes.js';

/** The OpenAPI 3.1 description of the API, made from the operations themselves. */
export function openApi(version: string): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of Object.values<Operation>(operations)) {
    const path = operation.path.replace(/:(\w+)/g, '{$1}');
    (paths[path] ??= {})[operation.method] = describe(operation);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Oxbow Tide', version },
    paths,
    components: {
      schemas: { Problem },
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'oxbow_session' } },
    },
    security: [{ session: [] }],
  };
}

function describe(operation: Operation): object {
  const problem = {
    description: 'What was wrong',
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
  };
  const answer = operation.answer ? { content: { 'application/json': { schema: operation.answer } } } : {};
  return {
    operationId: operation.id,
    summary: operation.summary,
    parameters: [...inPath(operation.path), ...inQuery(operation.query)],
    ...bodyOf(operation),
    responses: { [operation.status]: { description: 'Done', ...answer }, default: problem },
    ...(operation.open ? { security: [] } : {}),
  };
}

function inPath(path: string): object[] {
  return Object.entries(paramsOf(path).properties).map(([name, schema]) => ({
    name,
    in: 'path',
    required: true,
    schema,
  }));
}

function inQuery(query: TObject | undefined): object[] {
  return Object.entries(query?.properties ?? {}).map(([name, schema]) => ({
    name,
    in: 'query',
    required: query?.required?.includes(name) ?? false,
    schema,
  }));
}

function bodyOf(operation: Operation): object {
  if (operation.body)
    return { requestBody: { required: true, content: { 'application/json': { schema: operation.body } } } };
  if (!operation.form) return {};
  const properties = { file: { type: 'string', format: 'binary' }, ...operation.form.properties };
  return {
    requestBody: {
      required: true,
      content: { 'multipart/form-data': { schema: { type: 'object', required: ['file'], properties } } },
    },
  };
}
