import { Database } from '../../dist/storage/database.js';
import { storageService } from '../../dist/storage/storageService.js';
import { serve } from '../../dist/threads/serve.js';
import { faulty, faultyStatements } from './service.mjs';

faultyStatements('storage', Database.prototype);
serve(faulty('storage', storageService()));
