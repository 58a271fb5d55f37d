import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './pages.js';

/** What the compiler says of programs that use the package as it was built; nothing where they are right. */
export function compile(programs: ReadonlyMap<string, string>): string {
  const folder = mkdtempSync(join(root, 'node_modules', '.compiled-'));
  try {
    for (const [file, text] of programs) writeFileSync(join(folder, file), text);
    writeFileSync(
      join(folder, 'tsconfig.json'),
      JSON.stringify({
        compilerOptions: {
          noEmit: true,
          strict: true,
          module: 'esnext',
          moduleResolution: 'bundler',
          target: 'es2023',
          lib: ['es2023', 'dom', 'dom.iterable'],
          jsx: 'react-jsx',
          skipLibCheck: true,
          allowArbitraryExtensions: true,
          types: [],
          paths: {
            jocus: [join(root, 'dist/index.d.ts')],
            'jocus/react': [join(root, 'dist/browser/react.d.ts')],
            'jocus/engine': [join(root, 'dist/engine/index.d.ts')],
          },
        },
        files: [...programs.keys()].filter((file) => !file.endsWith('.d.yaml.ts')),
      }),
    );
    const compiler = join(root, 'node_modules/typescript/bin/tsc');
    return spawnSync(process.execPath, [compiler, '-p', folder], { encoding: 'utf8' }).stdout;
  } finally {
    rmSync(folder, { recursive: true });
  }
}
