/** What goods look like, as the feed shows them; a file's own picture is a link, since no page loads from elsewhere. */
import { Box } from '@mui/material';
import { useState } from 'react';
import { useWords } from '../../ui/useWords.ts';

type Of = {
  readonly root: string;
  /** What the feed is asked for; null: there is nothing to ask for. */
  readonly of: Readonly<Record<string, string>> | null;
  readonly title: string;
  readonly side: number;
  /** Address that a file names. */
  readonly link?: string;
};

export function GoodsPicture({ root, of, title, side, link = '' }: Of) {
  const { t } = useWords();
  const src = of === null ? null : `${root}/picture?${new URLSearchParams(of)}`;
  const [missing, setMissing] = useState<string | null>(null);
  const frame = { width: side, height: side, flex: 'none', borderRadius: 1 };
  if (src !== null && src !== missing)
    return (
      <Box
        component="img"
        key={src}
        src={src}
        alt={t('matching.pictureOf', { title })}
        width={side}
        height={side}
        loading="lazy"
        onError={() => setMissing(src)}
        sx={{ ...frame, objectFit: 'contain', bgcolor: '#fff', border: '1px solid', borderColor: 'hairline' }}
      />
    );
  return (
    <Box
      sx={{
        ...frame,
        border: '1px dashed',
        borderColor: 'divider',
        color: 'text.secondary',
        fontSize: '0.78rem',
        display: 'grid',
        placeItems: 'center',
        textAlign: 'center',
        p: 0.5,
      }}>
      {/^https?:\/\//i.test(link) ? (
        <a href={link} target="_blank" rel="noreferrer noopener">
          {t('matching.openPicture')}
        </a>
      ) : (
        side > 60 && t('matching.noPicture')
      )}
    </Box>
  );
}
