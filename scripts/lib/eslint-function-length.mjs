/** Functions and components stay short enough to be read whole; blocks that only gather tests do not count. */
export const functionLength = {
  meta: {
    type: 'suggestion',
    schema: [
      {
        type: 'object',
        properties: { most: { type: 'integer' } },
        required: ['most'],
        additionalProperties: false,
      },
    ],
    messages: { long: '{{ lines }} lines, at most {{ most }}: split it by what it does.' },
  },
  create(context) {
    const [{ most }] = context.options;
    const gathers = ({ parent }) =>
      parent.type === 'CallExpression' &&
      /^describe\b/.test(context.sourceCode.getText(parent.callee));
    const check = (node) => {
      const lines = node.loc.end.line - node.loc.start.line + 1;
      if (lines > most && !gathers(node))
        context.report({ node, messageId: 'long', data: { lines, most } });
    };
    return {
      FunctionDeclaration: check,
      FunctionExpression: check,
      ArrowFunctionExpression: check,
    };
  },
};
