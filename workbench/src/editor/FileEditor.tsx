import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { yaml } from '@codemirror/lang-yaml';
import { type Diagnostic, lintGutter, setDiagnostics } from '@codemirror/lint';
import { Annotation } from '@codemirror/state';
import { hoverTooltip, type EditorView as View } from '@codemirror/view';
import { basicSetup, EditorView } from 'codemirror';
import { useEffect, useRef } from 'react';
import { reader } from '../reader.js';
import { type as put, useParts, useWorkbench } from '../store.js';
import { words } from '../words.js';

/** Marks a change that came from elsewhere, so that it is not taken for typing. */
const fromElsewhere = Annotation.define<boolean>();

/** The file itself, problems and findings marked where they stand. */
export default function FileEditor() {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(undefined);
  const { text, reading, judgement, goTo } = useParts('text', 'reading', 'judgement', 'goTo');
  useEffect(() => {
    const made = new EditorView({
      parent: place.current!,
      doc: useWorkbench.getState().text,
      extensions: [
        basicSetup,
        yaml(),
        lintGutter(),
        autocompletion({ override: [complete] }),
        hoverTooltip(explain),
        EditorView.contentAttributes.of({ 'aria-label': words.file }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged && !update.transactions.some((each) => each.annotation(fromElsewhere)))
            put(update.state.doc.toString());
        }),
      ],
    });
    view.current = made;
    return () => made.destroy();
  }, []);
  useEffect(() => {
    const made = view.current!;
    const old = made.state.doc.toString();
    // What was typed since this text was shown stands in the editor already.
    if (old === text || old === useWorkbench.getState().text) return;
    made.dispatch({ changes: difference(old, text), annotations: fromElsewhere.of(true) });
  }, [text]);
  useEffect(() => {
    const made = view.current!;
    if (reading?.text !== text) return;
    const { doc } = made.state;
    const at = (line: number, column: number): number => {
      const found = doc.line(Math.min(Math.max(line, 1), doc.lines));
      return Math.min(found.from + column - 1, found.to);
    };
    const told = [
      ...reading.value.problems.map((problem) => ({ ...problem, severity: 'error' })),
      ...(judgement?.text === text ? judgement.value.findings : []),
    ];
    made.dispatch(
      setDiagnostics(
        made.state,
        told.map(({ line, column, message, remedy, severity }): Diagnostic => {
          const from = at(line, column);
          return {
            from,
            to: doc.lineAt(from).to,
            severity: severity === 'hint' ? 'info' : (severity as 'error' | 'warning'),
            message: `${message} ${remedy}`,
          };
        }),
      ),
    );
  }, [text, reading, judgement]);
  useEffect(() => {
    if (goTo === undefined) return;
    const made = view.current!;
    const { from } = made.state.doc.line(Math.min(goTo.line, made.state.doc.lines));
    made.dispatch({ selection: { anchor: from }, effects: EditorView.scrollIntoView(from, { y: 'center' }) });
    made.focus();
  }, [goTo]);
  return <div className="file" ref={place} />;
}

/** What the schema and the design's own names offer where the cursor is. */
async function complete({ state, pos, explicit }: CompletionContext): Promise<CompletionResult | null> {
  const text = state.doc.toString();
  if (!explicit && !/[\w.]$/.test(text.slice(0, pos))) return null;
  const { from, options } = await reader.helpAt(text, pos);
  if (options.length === 0) return null;
  return {
    from,
    options: options.map(({ label, info }) => ({ label, ...(info === '' ? {} : { info }) })),
    // What is offered does not depend on how the word goes on, so that it stays while somebody types.
    validFor: /^[\w.]*$/,
  };
}

/** What the key under the pointer means. */
async function explain({ state }: View, at: number) {
  const found = await reader.meaningAt(state.doc.toString(), at);
  if (found === undefined) return null;
  const create = () => {
    const dom = document.createElement('p');
    dom.className = 'meaning';
    dom.textContent = found.text;
    return { dom };
  };
  return { pos: found.from, end: found.to, above: true, create };
}

/** The one stretch in which two texts differ, so that the cursor stays where it is. */
function difference(old: string, text: string): { from: number; to: number; insert: string } {
  let from = 0;
  const least = Math.min(old.length, text.length);
  while (from < least && old[from] === text[from]) from++;
  let same = 0;
  while (same < least - from && old[old.length - 1 - same] === text[text.length - 1 - same]) same++;
  return { from, to: old.length - same, insert: text.slice(from, text.length - same) };
}
