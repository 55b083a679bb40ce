import Joi from 'joi';
import type { Fields, Shape } from '../../core/messages/shapes';
import { id, oscHost, pairOf, tagged } from './pieces';

/** The schema of fields that stand beside each other. */
export function schemasOf(fields: Fields): Joi.SchemaMap {
  return Object.fromEntries(Object.entries(fields).map(([name, shape]) => [name, shape.optional ? schemaOf(shape) : schemaOf(shape).required()]));
}

/** The schema that checks what a shape allows. */
function schemaOf(shape: Shape): Joi.Schema {
  switch (shape.is) {
    case 'number':
      return (shape.whole ? Joi.number().integer() : Joi.number()).min(shape.notBelow === undefined ? shape.least : Joi.ref(shape.notBelow)).max(shape.most);
    case 'choice':
      return Joi.valid(...shape.of);
    case 'yesOrNo':
      return Joi.boolean();
    case 'text': {
      const { most, pattern } = shape;
      return pattern ? Joi.string().pattern(pattern.expression, pattern.words).max(most) : Joi.string().allow('').max(most);
    }
    case 'ip':
      return oscHost;
    case 'id':
      return id;
    case 'pair':
      return pairOf(schemaOf(shape.of));
    case 'list': {
      const list = Joi.array().min(shape.least).max(shape.most).items(schemaOf(shape.of));
      if (shape.asLongAs !== undefined) return list.length(Joi.ref(`${shape.asLongAs}.length`));
      return shape.unique ? list.unique() : list;
    }
    case 'object':
      return Joi.object(schemasOf(shape.fields));
    case 'objectOr':
      return Joi.alternatives().conditional(Joi.object(), { then: schemaOf(shape.object), otherwise: schemaOf(shape.other) });
    case 'wordOr':
      return Joi.alternatives().conditional(Joi.string(), { then: Joi.valid(...shape.of), otherwise: schemaOf(shape.other) });
    case 'having':
      return Joi.alternatives().conditional(Joi.object({ [shape.field]: Joi.any().required() }).unknown(), { then: schemaOf(shape.then), otherwise: schemaOf(shape.otherwise) });
    case 'by':
      return Joi.when(shape.field, { is: Joi.valid(shape.value).required(), then: schemaOf(shape.then).required(), otherwise: schemaOf(shape.otherwise).required() });
    case 'tagged':
      return tagged(shape.tag, Object.fromEntries(Object.entries(shape.cases).map(([word, fields]) => [word, schemasOf(fields)])));
    default:
      return shape satisfies never;
  }
}
