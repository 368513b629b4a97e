import swc from '@swc/jest';

/** What a module reads of the global object, which in a test's own context is slow to read each time. */
const GLOBALS = ['Math', 'Number', 'Object', 'Array', 'Map', 'Set', 'String', 'JSON', 'Error', 'Infinity', 'NaN'];

/** What is read of the global object is read once a module: tests that reckon take two thirds of the time. */
export default {
  createTransformer(options) {
    const transformer = swc.createTransformer(options);
    return {
      ...transformer,
      getCacheKey: (...args) => `${transformer.getCacheKey(...args)}-globals`,
      process(source, path, jest) {
        const made = transformer.process(source, path, jest);
        const own = GLOBALS.filter(
          (name) =>
            new RegExp(`(?<![.\\w$'"])${name}\\b(?!\\s*:)`).test(made.code) &&
            // A module that has a thing of that name has its own.
            !new RegExp(
              `\\b(?:const|let|var|class|function|as)\\s+${name}\\b|[{,]\\s*${name}\\s*[,}][^;]*\\bfrom\\b`,
            ).test(made.code),
        );
        if (own.length === 0) return made;
        // On the first line, so that the others keep their numbers.
        return { ...made, code: `const {${own.join()}}=globalThis;${made.code}` };
      },
    };
  },
};
