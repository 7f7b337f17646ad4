import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { OpenCascadeInstance } from 'opencascade.js';

export type Kernel = OpenCascadeInstance & {
  HEAPU8: Uint8Array;
  HEAP32: Int32Array;
  HEAPF64: Float64Array;
  HEAPF32: Float32Array;
  // The emscripten file system; its own types are too loose to help.
  FS: {
    writeFile(path: string, data: Uint8Array | string): void;
    readFile(path: string): Uint8Array;
    unlink(path: string): void;
    mkdir(path: string): void;
    readdir(path: string): string[];
    rmdir(path: string): void;
    analyzePath(path: string): { exists: boolean };
  };
};

/**
 * Start-up is dominated by the registration of 100,000 methods, each of which compiles a function from text.
 * Two replacements make names without compiling and compile an invoker when it is first called.
 */
function speedUpStart(text: string): string {
  const named =
    'function createNamedFunction(name,body){name=makeLegalFunctionName(name);' +
    'var f=function(){return body.apply(this,arguments)};Object.defineProperty(f,"name",{value:name});return f}';
  const start = text.indexOf('function createNamedFunction(name,body){');
  const end = text.indexOf('(body)}', start) + '(body)}'.length;
  if (start < 0 || end < start) throw new Error('The kernel script has changed: createNamedFunction not found.');
  let out = text.slice(0, start) + named + text.slice(end);
  const head = 'function craftInvokerFunction(humanName,argTypes,classType,cppInvokerFunc,cppTargetFunc){';
  if (!out.includes(head)) throw new Error('The kernel script has changed: craftInvokerFunction not found.');
  out = out.replace(
    head,
    'function craftInvokerFunction(humanName,argTypes,classType,cppInvokerFunc,cppTargetFunc){' +
      'var made=null;return function(){if(made===null)made=craftInvokerNow(humanName,argTypes,classType,cppInvokerFunc,cppTargetFunc);' +
      'return made.apply(this,arguments)}}' +
      'function craftInvokerNow(humanName,argTypes,classType,cppInvokerFunc,cppTargetFunc){',
  );
  return out;
}

/**
 * Loads the B-rep kernel (WebAssembly) into the present thread. It takes seconds and hundreds of megabytes:
 * do this once in a thread or process of its own.
 * @param options.plain loads it without the start-up replacements, to compare
 */
export async function loadKernel(options: { plain?: boolean } = {}): Promise<Kernel> {
  const require = createRequire(join(process.cwd(), 'package.json'));
  const folder = join(dirname(require.resolve('opencascade.js/package.json')), 'dist');
  const file = join(folder, 'opencascade.full.js');
  const text = readFileSync(file, 'utf8').replace('export default Module;', 'return Module;');
  const body = options.plain ? text : speedUpStart(text);
  const listeners = (['uncaughtException', 'unhandledRejection'] as const).map((n) => [n, process.listeners(n as never)] as const);
  const factory = new Function('require', '__dirname', '__filename', body)(require, folder, file) as (options: object) => Promise<Kernel>;
  const kernel = await factory({
    wasmBinary: readFileSync(join(folder, 'opencascade.full.wasm')),
    print: () => {},
    printErr: () => {},
  });
  // The script adds process-wide handlers that rethrow; ours decide what ends the process.
  for (const [name, before] of listeners)
    for (const l of process.listeners(name as never)) if (!before.includes(l as never)) process.removeListener(name, l as never);
  return kernel;
}
