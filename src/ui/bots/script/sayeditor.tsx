'use client';

import { toast } from 'sonner';
import { imagePath } from '@/core/bots/conversation';
import { withoutImage } from '@/core/bots/edit';
import { languageName } from '@/core/localised';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Check, Input } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { base64Of } from '../../kit/fileread';
import { Picture } from '../../kit/picture';
import { useAround } from './around';
import { Row } from './pieces';
import type { Of } from './editing';
import { WordingEditor } from './wordingeditor';

export function SayEditor({ step, onChange }: Of<'say'>) {
  const { script } = useAround();
  const { link } = step;
  return (
    <div className="flex flex-col gap-2">
      <WordingEditor label="Says" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="">
        <Check
          label="speaking or a key may cut it short"
          checked={step.mayInterrupt}
          onChange={(e) => onChange({ ...step, mayInterrupt: e.target.checked })}
        />
        <ImageButton onImage={(imageId) => onChange({ ...step, image: { imageId, alt: step.image?.alt ?? {} } })} />
        <Check
          label="with a link, on text channels"
          checked={link !== null}
          onChange={(e) => onChange({ ...step, link: e.target.checked ? { url: 'https://', label: {} } : null })}
        />
      </Row>
      {link && (
        <Row label="Link">
          <Input
            aria-label="Address of the link"
            className="!w-72 !py-1 text-small"
            value={link.url}
            onChange={(e) => onChange({ ...step, link: { ...link, url: e.target.value } })}
          />
          {script.languages.map((l) => (
            <Input
              key={l}
              aria-label={`Words of the link, ${languageName(l)}`}
              placeholder={languageName(l)}
              className="!w-32 !py-1 text-small"
              value={link.label[l] ?? ''}
              onChange={(e) => onChange({ ...step, link: { ...link, label: { ...link.label, [l]: e.target.value } } })}
            />
          ))}
        </Row>
      )}
      {step.image && (
        <Row label="Picture">
          <Picture src={imagePath(step.image.imageId)} alt="" small />
          {script.languages.map((l) => (
            <Input
              key={l}
              aria-label={`What the picture shows, ${languageName(l)}`}
              placeholder={`what it shows, ${languageName(l)}`}
              maxLength={200}
              className="!w-44 !py-1 text-small"
              value={step.image?.alt[l] ?? ''}
              onChange={(e) => {
                if (step.image)
                  onChange({ ...step, image: { ...step.image, alt: { ...step.image.alt, [l]: e.target.value } } });
              }}
            />
          ))}
          <Button small onClick={() => onChange(withoutImage(step))}>
            Leave it out
          </Button>
        </Row>
      )}
    </div>
  );
}

/** Picks a picture for chat and messaging and keeps it in the workspace. */
function ImageButton({ onImage }: { onImage: (imageId: string) => void }) {
  const keep = async (picked: File) => {
    try {
      onImage((await setting<{ id: string }>('keep-image', { data: await base64Of(picked) })).id);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <FilePick
      small
      label="Picture file"
      accept="image/png,image/jpeg,image/gif,image/webp"
      onFile={(picked) => void keep(picked)}
    >
      Show a picture…
    </FilePick>
  );
}
