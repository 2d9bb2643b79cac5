'use client';

import type { Step } from '@/core/bots/model';
import type { EditorProps } from './lineeditor';

export type Of<V extends Step['verb']> = EditorProps<Extract<Step, { verb: V }>>;
