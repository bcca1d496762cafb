export {
  defineMessages,
  isSameMessage,
  type Definitions,
  type Message,
  type MessageOf,
  type Parameter,
  type ParameterKind,
  type ParameterKinds,
  type ParametersOf,
  type Part,
  type Subject,
} from './messages.ts';
