import { serve } from '../threads/serve.ts';
import { engineService } from './engineService.ts';

serve(engineService());
