import { reply } from '../reply';
import { services } from '../../services';

/** What last kept data from being read or kept, for a page that could not be shown. */
export const GET = () => reply(() => ({ sentence: services().trouble() }));
