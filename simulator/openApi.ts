import { MODES } from './answers.ts';

const parameter = (name: string, example: string, schema: object = { type: 'string' }) => ({
  name,
  in: 'query',
  required: true,
  example,
  schema,
});
const json = (schema: object) => ({ description: 'The answer', content: { 'application/json': { schema } } });
const trouble = {
  '422': { description: 'The question is not understood' },
  '429': { description: 'Too many questions; the header retry-after says how many seconds to wait' },
  '503': { description: 'Not now' },
};

/** OpenAPI description of the stand-in. */
export const openApi = {
  openapi: '3.1.0',
  info: {
    title: 'Stand-in for outside services',
    version: '1',
    description: 'Invented exchange rates and freight quotes, the same for the same question.',
  },
  paths: {
    '/exchange-rates': {
      get: {
        summary: 'Exchange rates of a day',
        parameters: [parameter('date', '2026-11-24'), parameter('base', 'EUR')],
        responses: {
          '200': json({
            type: 'object',
            required: ['date', 'base', 'rates'],
            properties: {
              date: { type: 'string', format: 'date' },
              base: { type: 'string' },
              source: { type: 'string' },
              rates: {
                type: 'object',
                description: 'Units of each currency per one of the base',
                additionalProperties: { type: 'number', exclusiveMinimum: 0 },
              },
            },
          }),
          ...trouble,
        },
      },
    },
    '/freight-quotes': {
      get: {
        summary: 'A freight quote between two countries',
        parameters: [
          parameter('from', 'CN'),
          parameter('to', 'DE'),
          parameter('mode', 'sea', { type: 'string', enum: MODES }),
          parameter('date', '2026-11-24'),
        ],
        responses: {
          '200': json({
            type: 'object',
            required: [
              'mode',
              'basis',
              'rate',
              'currency',
              'minimum',
              'fuelSurcharge',
              'transitDays',
              'validUntil',
            ],
            properties: {
              mode: { type: 'string', enum: MODES },
              basis: { type: 'string', enum: ['perCbm', 'perKg'] },
              rate: { type: 'number' },
              currency: { type: 'string' },
              minimum: { type: 'number', description: 'Chargeable m3 or kg at least' },
              fuelSurcharge: { type: 'number', description: 'As a fraction' },
              transitDays: { type: 'number' },
              validUntil: { type: 'string', format: 'date' },
            },
          }),
          ...trouble,
        },
      },
    },
    '/behaviour': {
      get: { summary: 'How it behaves', responses: { '200': json({ type: 'object' }) } },
      put: {
        summary: 'Make it slow, fail, limit, or answer oddly',
        requestBody: {
          content: {
            'application/json': {
              schema: {
                type: 'object',
                properties: {
                  slowMs: { type: 'number' },
                  failNext: { type: 'integer' },
                  perMinute: { type: ['integer', 'null'] },
                  odd: { type: 'boolean' },
                },
              },
            },
          },
        },
        responses: { '200': json({ type: 'object' }), '422': { description: 'Not understood' } },
      },
    },
  },
} as const;
