import type { Step } from '@/core/bots/model';

/** What the editor of a line gets: the line, and where its change goes. */
export type EditorProps<S extends Step> = { readonly step: S; readonly onChange: (step: Step) => void };
/** The same for the lines of one verb. */
export type Of<V extends Step['verb']> = EditorProps<Extract<Step, { verb: V }>>;
