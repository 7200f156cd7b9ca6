/** What one holds: its barcode by camera, from a picture or typed, or a listing's code or a name. */
import { Alert, Box, Button, InputBase } from '@mui/material';
import { useRef, useState } from 'react';
import type { CodesSeen } from '../../../core/goods/seen.ts';
import { FieldShell, fieldInput } from '../../ui/Field.tsx';
import { FileField } from '../../ui/FileField.tsx';
import { readPicture } from './reader.ts';
import { useCamera } from './useCamera.ts';
import type { Check } from './useCheck.ts';
import { useWords } from '../../ui/useWords.ts';

export function GoodsField({ check, onFound }: { check: Check; onFound: () => void }) {
  const { t } = useWords();
  const [isScanning, setScanning] = useState(false);
  /** Several barcodes in one picture, or what is none. */
  const [seen, setSeen] = useState<CodesSeen | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const { goods, setText } = check;
  const take = (gtin: string): void => {
    setText(gtin);
    setSeen(null);
    setScanning(false);
    onFound();
  };
  const see = (now: CodesSeen): void => {
    setFailed(null);
    const [first, second] = now.goods;
    if (first !== undefined && second === undefined) take(first);
    else setSeen(now);
  };
  const { video, trouble } = useCamera(isScanning, see);
  const fromFile = async (picture: File): Promise<void> => {
    setScanning(false);
    const read = await readPicture(picture);
    if (read === null) setFailed('scanFailed');
    else if (read.goods.length === 0 && read.other === null) setFailed('noneInPicture');
    else see(read);
  };
  const { recognised } = goods;
  const wrong = recognised.kind === 'notABarcode' ? t(`anything.notABarcode.${recognised.trouble}`) : null;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {isScanning && (
        <Box
          sx={{
            position: 'relative',
            bgcolor: 'ink',
            borderRadius: 1.5,
            overflow: 'hidden',
            height: 190,
            display: 'grid',
            placeItems: 'center',
          }}>
          <Box
            component="video"
            ref={video}
            muted
            playsInline
            aria-label={t('check.scanning')}
            sx={{ width: '100%', height: '100%', objectFit: 'cover' }}
          />
        </Box>
      )}
      {trouble !== null && <Alert severity="warning">{t(`check.${trouble}`)}</Alert>}
      {failed !== null && <Alert severity="warning">{t(`check.${failed}`)}</Alert>}
      {seen !== null && seen.goods.length > 1 && (
        <Alert severity="info">
          {t('check.choose')}{' '}
          {seen.goods.map((gtin) => (
            <Button key={gtin} onClick={() => take(gtin)}>
              {gtin}
            </Button>
          ))}
        </Alert>
      )}
      {seen !== null && seen.goods.length === 0 && seen.other !== null && (
        <Alert severity="warning">{t('check.otherKind', { format: seen.other.replaceAll('_', ' ') })}</Alert>
      )}
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
        <Box sx={{ flex: 1, minWidth: 0, '& input': { fontSize: '1.05rem', py: 1 } }}>
          <FieldShell label={t('check.goods')} error={wrong} width="100%">
            {({ id, describedBy }) => (
              <InputBase
                id={id}
                value={goods.text}
                onChange={(e) => setText(e.target.value)}
                onKeyDown={(e) => e.key === 'Enter' && onFound()}
                error={wrong !== null}
                inputProps={{
                  maxLength: 200,
                  autoComplete: 'off',
                  'aria-invalid': wrong !== null,
                  ...(describedBy === undefined ? {} : { 'aria-describedby': describedBy }),
                }}
                sx={fieldInput(wrong !== null)}
              />
            )}
          </FieldShell>
        </Box>
        <Button
          variant={isScanning ? 'outlined' : 'contained'}
          onClick={() => {
            setScanning(!isScanning);
            setSeen(null);
            setFailed(null);
          }}
          sx={{ mt: '18px', minHeight: 44 }}>
          {t(isScanning ? 'check.stopScan' : 'check.scan')}
        </Button>
      </Box>
      <FileField
        ref={file}
        label={t('check.picture')}
        accept="image/*"
        onFile={(picture) => void fromFile(picture)}
      />
      {isScanning && (
        <Box>
          <Button size="small" onClick={() => file.current?.click()}>
            {t('check.picture')}
          </Button>
        </Box>
      )}
    </Box>
  );
}
