import { Directive, ElementRef, Injectable, type OnDestroy, effect, inject, input } from '@angular/core';

/** Loads faces for text on the page, each file once. */
@Injectable({ providedIn: 'root' })
export class FaceFonts {
  private readonly loading = new Map<string, Promise<string>>();

  /** @param url where the file is. @returns the CSS family name, once it can be used. */
  load(url: string): Promise<string> {
    let promise = this.loading.get(url);
    if (!promise) {
      const family = `jx-face-${this.loading.size}`;
      const font = new FontFace(family, `url("${url}")`, { display: 'block', weight: '1 1000' });
      promise = font.load().then((loaded) => {
        document.fonts.add(loaded);
        return family;
      });
      promise.catch(() => this.loading.delete(url));
      this.loading.set(url, promise);
    }
    return promise;
  }
}

/** Shows an element's text in a face, loaded when it comes into view. */
@Directive({ selector: '[jxFaceText]' })
export class FaceText implements OnDestroy {
  private readonly fonts = inject(FaceFonts);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** Address of the font file; empty while it isn't known. */
  readonly url = input.required<string>({ alias: 'jxFaceText' });
  private visible = false;
  private readonly observer = new IntersectionObserver(([entry]) => {
    if (!entry?.isIntersecting) return;
    this.visible = true;
    this.observer.disconnect();
    void this.show(this.url());
  });

  constructor() {
    this.observer.observe(this.element);
    effect(() => {
      const url = this.url();
      if (this.visible) void this.show(url);
    });
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
  }

  private async show(url: string): Promise<void> {
    if (url === '') return;
    try {
      const family = await this.fonts.load(url);
      if (url === this.url()) {
        this.element.style.fontFamily = `"${family}"`;
        this.element.dataset['faceState'] = 'shown';
      }
    } catch {
      this.element.dataset['faceState'] = 'failed';
    }
  }
}
