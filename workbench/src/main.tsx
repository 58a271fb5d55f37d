import '@mantine/core/styles.css';
import './style.css';
import { createTheme, type MantineColorsTuple, MantineProvider } from '@mantine/core';
import type { ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './App.js';
import { type DesignFile, openFile } from './file.js';
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
  respectReducedMotion: true,
});

const root = createRoot(document.getElementById('workbench')!);
const show = (content: ReactNode): void =>
  root.render(
    <MantineProvider theme={theme} defaultColorScheme="auto">
      {content}
    </MantineProvider>,
  );
function open(file: DesignFile): void {
  void begin(file);
  show(<App name={file.name} isInBrowser={file.isInBrowser} />);
}

const opened = await openFile();
if (opened === 'no token') show(<p className="alone">{words.noToken}</p>);
else if ('link' in opened) {
  const { default: Home } = await import('./Home.js');
  show(<Home link={opened.link} open={open} />);
} else open(opened);
