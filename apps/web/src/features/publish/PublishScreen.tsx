import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { usePublicationsQuery } from '../../api/publications.ts';
import { problemText } from '../../api/problems.ts';
import { Problem } from '../../parts/Problem.tsx';
import { NewPublication } from './NewPublication.tsx';
import { PublicationList } from './PublicationList.tsx';
import { PublicationView } from './PublicationView.tsx';

/** What others ask of what is published here, and what that costs. */
export function PublishScreen() {
  const { publication: name } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const { data, error } = usePublicationsQuery(undefined, { pollingInterval: 10_000, refetchOnMountOrArgChange: true });
  const [isAsked, setAsked] = useState(false);
  const pipeline = search.get('pipeline');
  const isNew = isAsked || pipeline !== null;
  const chosen = data?.find((one) => one.name === name) ?? (name === undefined ? data?.[0] : undefined);
  const leave = () => {
    setAsked(false);
    setSearch({}, { replace: true });
  };
  return (
    <>
      <PublicationList publications={data ?? []} chosen={chosen?.name} onNew={() => setAsked(true)} />
      <Box sx={{ flex: 1, minWidth: 0, overflow: 'auto' }}>
        {error !== undefined && <Problem text={problemText(error)} />}
        {chosen && <PublicationView key={chosen.name} publication={chosen} />}
        {data && !chosen && (
          <Box sx={{ p: 4, maxWidth: 620, color: 'text.secondary' }}>
            {name === undefined ? (
              <>
                <p>Nothing is published yet. A saved pipeline that is published is answered over HTTP for programs, and has a page for people: with parameters, limits, keys, and answers that are kept.</p>
                <Button variant="contained" onClick={() => setAsked(true)}>Publish a saved pipeline</Button>
              </>
            ) : (
              `Nothing is published as ${name}.`
            )}
          </Box>
        )}
      </Box>
      {isNew && <NewPublication pipeline={pipeline ?? undefined} taken={(data ?? []).map((one) => one.name)} onClose={leave} onMade={(made) => void navigate(`/publish/${made}`)} />}
    </>
  );
} // prettier-ignore
