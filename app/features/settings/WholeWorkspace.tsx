/** The workspace as a whole: taken along, left, deleted. */
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { Form } from 'react-router';
import type { WorkspaceHead } from '../frame/Shell.tsx';
import { Section } from './Section.tsx';
import { useWords } from '../../ui/useWords.ts';

export function WholeWorkspace({ head, owner }: { head: WorkspaceHead; owner: boolean }) {
  const { t } = useWords();
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Section title={t('settings.all')} id="export">
        <Button variant="outlined" href={`/w/${head.slug}/export`} download>
          {t('settings.export')}
        </Button>
        <Form method="post">
          <input type="hidden" name="intent" value="leave" />
          <Button type="submit">{t('settings.leave')}</Button>
        </Form>
        {owner && (
          <Button color="error" onClick={() => setAsking(true)}>
            {t('settings.delete')}
          </Button>
        )}
      </Section>
      {asking && (
        <Dialog open onClose={() => setAsking(false)}>
          <DialogTitle>{t('settings.deleteTitle', { name: head.name })}</DialogTitle>
          <DialogContent>
            <Typography>{t('settings.deleteText')}</Typography>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setAsking(false)}>{t('cancel')}</Button>
            <Form method="post">
              <input type="hidden" name="intent" value="delete" />
              <Button type="submit" color="error" variant="contained">
                {t('settings.delete')}
              </Button>
            </Form>
          </DialogActions>
        </Dialog>
      )}
    </>
  );
}
