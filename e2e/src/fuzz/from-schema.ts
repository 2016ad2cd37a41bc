/** Values that a JSON Schema (draft 2020-12) accepts, as far as a schema tells: what it says of a property tomorrow is fuzzed tomorrow. */
import fc from 'fast-check';

/** The part of JSON Schema that is used. */
export interface JsonSchema {
  type?: string;
  const?: unknown;
  enum?: readonly unknown[];
  anyOf?: readonly JsonSchema[];
  oneOf?: readonly JsonSchema[];
  allOf?: readonly JsonSchema[];
  properties?: Readonly<Record<string, JsonSchema>>;
  required?: readonly string[];
  propertyNames?: JsonSchema;
  additionalProperties?: JsonSchema | boolean;
  items?: JsonSchema;
  minItems?: number;
  maxItems?: number;
  minLength?: number;
  maxLength?: number;
  pattern?: string;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
}

/** Most items of a list, members of a record and letters of a text. */
const MOST = { items: 4, members: 3, letters: 60 };
/** How far numbers go where a schema doesn't say. */
const FAR = 10_000;

/**
 * @param schema of what is made. @param own values for texts that are called so, whatever their schema says
 * @throws Error for a schema of a kind that isn't known here, so that none is passed over
 */
export function fromSchema(schema: JsonSchema, own: Readonly<Record<string, fc.Arbitrary<unknown>>> = {}): fc.Arbitrary<unknown> {
  const make = (one: JsonSchema): fc.Arbitrary<unknown> => fromSchema(one, own);
  if ('const' in schema) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices) return fc.oneof(...choices.map(make));
  switch (schema.type) {
    case 'null':
      return fc.constant(null);
    case 'boolean':
      return fc.boolean();
    case 'integer':
    case 'number':
      return numbers(schema);
    case 'string':
      return schema.pattern === undefined
        ? fc.string({ unit: 'grapheme', minLength: schema.minLength ?? 0, maxLength: Math.min(schema.maxLength ?? MOST.letters, MOST.letters) })
        : fc.stringMatching(new RegExp(schema.pattern), { maxLength: MOST.letters });
    case 'array': {
      const least = schema.minItems ?? 0;
      return fc.array(make(schema.items ?? {}), { minLength: least, maxLength: Math.max(least, Math.min(schema.maxItems ?? MOST.items, MOST.items)) });
    }
    case 'object': {
      if (!schema.properties) return record(schema, make);
      const members = Object.entries(schema.properties).map(([name, one]) => [name, (isText(one) ? own[name] : undefined) ?? make(one)] as const);
      return fc.record(Object.fromEntries(members), { requiredKeys: [...(schema.required ?? [])] });
    }
    default:
      throw new Error(`Nothing is made of ${JSON.stringify(schema).slice(0, 200)}`);
  }
}

/** Whether it is of a text, or of one that may be missing. */
const isText = ({ type, anyOf = [] }: JsonSchema): boolean => type === 'string' || anyOf.some(isText);

/** Mostly anything within the limits, often the limits themselves. */
function numbers({ type, minimum, maximum, exclusiveMinimum, exclusiveMaximum }: JsonSchema): fc.Arbitrary<number> {
  const [least, most] = [Math.max(minimum ?? exclusiveMinimum ?? -FAR, -1e9), Math.min(maximum ?? exclusiveMaximum ?? FAR, 1e9)];
  if (type === 'integer') {
    const whole = fc.integer({ min: Math.ceil(least), max: Math.floor(most) });
    return fc.oneof({ weight: 3, arbitrary: whole }, fc.constantFrom(Math.ceil(least), Math.floor(most)));
  }
  const any = fc.double({
    ...{ min: least, max: most, noNaN: true },
    ...{ minExcluded: exclusiveMinimum !== undefined, maxExcluded: exclusiveMaximum !== undefined },
  });
  if (exclusiveMinimum !== undefined || exclusiveMaximum !== undefined) return any;
  const usual = [0, 1].filter((one) => one >= least && one <= most);
  return fc.oneof({ weight: 3, arbitrary: any }, fc.constantFrom(least, most, ...usual));
}

function record({ propertyNames, additionalProperties }: JsonSchema, make: (schema: JsonSchema) => fc.Arbitrary<unknown>): fc.Arbitrary<unknown> {
  const names = (propertyNames ? make(propertyNames) : fc.string({ maxLength: 8 })) as fc.Arbitrary<string>;
  const values = make(typeof additionalProperties === 'object' ? additionalProperties : {});
  return fc.dictionary(names, values, { maxKeys: MOST.members });
}
