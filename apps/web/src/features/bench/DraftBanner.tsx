import Box from '@mui/material/Box';
import Button from '@mui/material/Button';

/** Says that the pipeline is being drafted on a few documents alone, and leads back to all. */
export function DraftBanner({ identities, onBack }: { identities: readonly (string | number)[]; onBack: () => void }) {
  return (
    <Box
      role="status"
      sx={{
        px: 2,
        py: 0.6,
        fontSize: 12.5,
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        bgcolor: (t) => t.roles.flowSoft,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <Box sx={{ flex: 1 }}>
        Drafting on {identities.join(', ')} alone: all figures and rows are of {identities.length === 1 ? 'it' : 'them'}.
      </Box>
      <Button size="small" onClick={onBack} sx={{ py: 0 }}>
        Back to all documents
      </Button>
    </Box>
  );
}
