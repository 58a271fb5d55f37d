// The reader gets ready while the rest of the page is loaded.
import './reader.js';

await import('./main.js');
