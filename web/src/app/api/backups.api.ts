import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import { type Backup, backupListSchema, backupSchema } from '@jentrix/core/api';
import { type Observable, map } from 'rxjs';
import { ApiService } from './api.service';

/** Copies of all data on the server. */
@Injectable({ providedIn: 'root' })
export class BackupsApi {
  private readonly http = inject(HttpClient);
  private readonly api = inject(ApiService);

  list(): Observable<Backup[]> {
    return this.api.checked(backupListSchema, this.http.get('/api/backups')).pipe(map(({ items }) => items));
  }

  make(): Observable<Backup> {
    return this.api.checked(backupSchema, this.http.post('/api/backups', {}));
  }

  /** Where a copy is downloaded from. */
  address(name: string): string {
    return `/api/backups/${encodeURIComponent(name)}/file`;
  }

  restore(name: string): Observable<unknown> {
    return this.api.failing(this.http.post(`/api/backups/${encodeURIComponent(name)}/restore`, {}));
  }

  restoreFile(file: Blob): Observable<unknown> {
    return this.api.failing(this.http.post('/api/backups/restore', file, { headers: { 'content-type': 'application/octet-stream' } }));
  }

  /** Has the server write its database again where the file is gone. */
  writeAgain(): Observable<unknown> {
    return this.api.failing(this.http.post('/api/backups/write-again', {}));
  }
}
