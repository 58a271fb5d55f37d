import type { Form } from '../engine/form.js';
import type { Meeting } from './meeting.js';
import { Play } from './play.js';
import type { Tally } from './tally.js';

export const generatedPlay = (form: Form, meeting: Meeting, tally: Tally): Play => new Play(form, meeting, tally, 'generated');
