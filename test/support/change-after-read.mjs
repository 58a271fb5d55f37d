// Loaded into a process before its program: once the file CHANGED_FILE has been read, it holds CHANGED_TEXT, as if somebody had saved it then.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';

const { CHANGED_FILE: file, CHANGED_TEXT: text } = process.env;
const real = fs.readFileSync;
let isChanged = false;
fs.readFileSync = (path, ...words) => {
  const read = real(path, ...words);
  if (path === file && !isChanged) {
    isChanged = true;
    fs.writeFileSync(file, text);
  }
  return read;
};
syncBuiltinESMExports();
