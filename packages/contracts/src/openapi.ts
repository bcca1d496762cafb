/** The OpenAPI 3.1 document, made from the endpoints. Source: OpenAPI Specification 3.1.1. */
import { z } from 'zod';
import { api } from './api.ts';
import type { Endpoint } from './endpoint.ts';
import { errorAnswer } from './errors.ts';

type Json = Record<string, unknown>;

function schemaOf(type: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _, ...schema } = z.toJSONSchema(type, { io, unrepresentable: 'any' }) as Json;
  return schema;
}

function parametersOf(type: z.ZodType, place: 'path' | 'query'): Json[] {
  const { properties = {}, required = [] } = schemaOf(type, 'input') as {
    properties?: Record<string, Json>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, schema]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema,
  }));
}

function operationOf(id: string, endpoint: Endpoint): Json {
  const json = (schema: z.ZodType, io: 'input' | 'output') => ({
    content: { 'application/json': { schema: schemaOf(schema, io) } },
  });
  const hasBody =
    endpoint.method === 'POST' &&
    Object.keys((schemaOf(endpoint.body, 'input') as { properties?: Json }).properties ?? {}).length > 0;
  const isStream = endpoint.path.endsWith('/events');
  const answer = isStream
    ? { content: { 'text/event-stream': { schema: schemaOf(endpoint.answer, 'output') } } }
    : endpoint.gives !== undefined
      ? { content: { [endpoint.gives]: { schema: { type: 'string', format: 'binary' } } } }
      : json(endpoint.answer, 'output');
  return {
    operationId: id,
    summary: endpoint.summary,
    parameters: [...parametersOf(endpoint.params, 'path'), ...parametersOf(endpoint.query, 'query')],
    ...(endpoint.streams
      ? {
          requestBody: {
            required: true,
            content: { [endpoint.streams]: { schema: { type: 'string', format: 'binary' } } },
          },
        }
      : hasBody
        ? { requestBody: { required: true, ...json(endpoint.body, 'input') } }
        : {}),
    responses: {
      [endpoint.status]: {
        description: 'Done',
        ...answer,
      },
      default: { description: 'An error, in words with the next step', ...json(errorAnswer, 'output') },
    },
    security: endpoint.access === 'public' ? [] : [{ session: [] }],
  };
}

export function openApiDocument(version: string): Json {
  const paths: Record<string, Json> = {};
  for (const [feature, endpoints] of Object.entries(api)) {
    for (const [name, endpoint] of Object.entries(endpoints as Record<string, Endpoint>)) {
      const path = `/api${endpoint.path.replace(/:(\w+)/g, '{$1}')}`;
      paths[path] = { ...paths[path], [endpoint.method.toLowerCase()]: operationOf(`${feature}.${name}`, endpoint) };
    }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Fastigium', version },
    components: { securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'fastigium' } } },
    paths,
  };
}
