import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import { type DrillResult, type KeptResult, type Progress, keptResultSchema, progressSchema } from '@jentrix/core/drill/kept';
import type { Observable } from 'rxjs';
import { ApiService } from '../api/api.service';

/** The API of exercises: apart from the rest of it, which every page loads. */
@Injectable({ providedIn: 'root' })
export class DrillApi {
  private readonly api = inject(ApiService);
  private readonly http = inject(HttpClient);

  /** Keeps what was done in an exercise. */
  keepResult(result: DrillResult): Observable<KeptResult> {
    return this.api.checked(keptResultSchema, this.http.post('/api/drill/results', result));
  }

  /** The progress over all exercises. */
  readProgress(): Observable<Progress> {
    return this.api.checked(progressSchema, this.http.get('/api/drill/progress'));
  }

  /** Forgets all exercises. */
  forgetResults(): Observable<unknown> {
    return this.api.failing(this.http.delete('/api/drill/results'));
  }
}
