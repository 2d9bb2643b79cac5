import type { Who } from '../../core/people/membership';
import { id, level } from './schemas';
import { shaped } from './shaped';

/** Whom a rule is about. */
export const whoSchema = shaped<Who, 'by'>(
  'by',
  {
    everyone: {},
    team: { id: id('The team') },
    role: { id: id('The role') },
    skill: { id: id('The skill'), atLeast: level.required('The level is missing') },
  },
  'Whom a rule is for',
  {},
);
