import { toast } from 'sonner';
import { sentence, setting } from './call';

/** Carries out an act that is over once it is done, and says so, or why it was refused. Gives whether it was done. */
export const doing = (act: string, body: object, said: string): Promise<boolean> =>
  setting(act, body).then(
    () => {
      toast.success(said);
      return true;
    },
    (error: unknown) => {
      toast.error(sentence(error));
      return false;
    },
  );
