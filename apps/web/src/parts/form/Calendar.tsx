import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs';
import { DateCalendar } from '@mui/x-date-pickers/DateCalendar';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import dayjs from 'dayjs';

/** A month to pick a day from. @param onPick told the day as `2026-01-31` (RFC 3339, full-date) */
export function Calendar({ value, onPick }: { value: string; onPick: (day: string) => void }) {
  const at = dayjs(value);
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <DateCalendar
        value={at.isValid() ? at : null}
        onChange={(picked: dayjs.Dayjs | null, how) => {
          if (how === 'finish' && picked !== null) onPick(picked.format('YYYY-MM-DD'));
        }}
      />
    </LocalizationProvider>
  );
}
