import '@mantine/core/styles.css';
import './style.css';
import { createTheme, type MantineColorsTuple, MantineProvider } from '@mantine/core';
import { createRoot } from 'react-dom/client';
import { App } from './App.js';
import { openFile } from './file.js';
import { begin } from './store.js';
import { words } from './words.js';

const heather: MantineColorsTuple = [
  '#f5f0fa',
  '#e7dcf1',
  '#cdb6e2',
  '#b28dd2',
  '#9b6ac5',
  '#8c54bd',
  '#7f44b3',
  '#6d379c',
  '#5b3f86',
  '#43285f',
];
const theme = createTheme({
  primaryColor: 'heather',
  colors: { heather },
  fontFamily: 'system-ui, sans-serif',
  fontFamilyMonospace: 'ui-monospace, "DejaVu Sans Mono", monospace',
  defaultRadius: 'md',
});

const root = createRoot(document.getElementById('workbench')!);
const file = await openFile();
if (file !== 'no token') begin(file);
root.render(
  <MantineProvider theme={theme} defaultColorScheme="auto">
    {file === 'no token' ? <p className="alone">{words.noToken}</p> : <App name={file.name} />}
  </MantineProvider>,
);
