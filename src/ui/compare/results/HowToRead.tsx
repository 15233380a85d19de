import { trialColumns } from '@/core/compare/columns';
import {
  gradeMapping,
  gradeOf,
  gradeWords,
  MOST_ABOVE_WORST,
  wordsOfGrade,
} from '@/core/compare/grade';
import { Popover } from '../../shared/Popover';

/** Noise-to-mask ratios for which the mapping is shown, in dB. */
const shown = [-40, -20, -10, -5, 0, 4, 10, 20];

/** How grades come about, what no figure sees, and what each column means. */
export function HowToRead() {
  return (
    <Popover label="How to read this" face="How to read this" className="link link-primary">
      {() => (
        <div className="max-h-[70vh] w-[36rem] max-w-full space-y-3 overflow-y-auto text-sm">
          <HowGraded />
          <dl className="space-y-1 text-xs">
            {trialColumns.map(({ id, title, says }) => (
              <div key={id}>
                <dt className="inline font-semibold">{title}: </dt>
                <dd className="inline">{says}</dd>
              </div>
            ))}
          </dl>
        </div>
      )}
    </Popover>
  );
}

/** How grades come about, and what no figure sees. */
export function HowGraded() {
  const { disturbedDb, missingDb, middleDb, slopeDb } = gradeMapping;
  const number = (value: number) => String(value).replace('-', '−');
  return (
    <>
      <p>
        The ear model is the noise-to-mask ratio of ITU-R BS.1387 (its basic version): how far noise
        lies above what the sound itself hides. The <strong>grade</strong> is our own mapping of it
        onto the words of the five-grade impairment scale, and conforms to no standard: h is the
        ratio plus {disturbedDb} dB when every frame is disturbed (less for fewer) and {missingDb}{' '}
        dB when all loudness is gone (less for a part), x = (h − {middleDb}) ÷ {slopeDb}, grade = −2
        · (1 + x ÷ √(1 + x²)); never better than the worst half second by more than{' '}
        {MOST_ABOVE_WORST}.
      </p>
      <table className="w-full text-xs">
        <thead>
          <tr className="text-soft text-left">
            <th>Noise to mask</th>
            <th>No frame disturbed</th>
            <th>Every frame disturbed</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((nmrDb) => (
            <tr key={nmrDb} className="border-base-300 border-t">
              <td className="py-0.5">{number(nmrDb)} dB</td>
              {[0, 1].map((disturbed) => {
                const grade = gradeOf({ nmrDb, disturbed });
                return (
                  <td key={disturbed}>
                    {number(grade)} {wordsOfGrade(grade)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-soft text-xs">
        {gradeWords.map(({ from, words }) => `${words} down to ${number(from)}`).join(' · ')}
      </p>
      <p>
        It compares magnitudes in frames of 43 ms. It does not see polarity, small shifts, or what
        one ear hears of the other, and blurs what comes before a click: for these there are
        likeness, image and pre-echo. Mono is held against the sound mixed to mono: losing the width
        is a choice, and no fault of the codec; what cancels when it is mixed counts as loudness
        that is gone. A model puts settings of one sound in order; it does not replace ears.
      </p>
    </>
  );
}
