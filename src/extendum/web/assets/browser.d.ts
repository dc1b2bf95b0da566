// How the scripts use the browser, for the type checker: what a selector finds has whatever its kind has, attributes take
// numbers, and what a page's data says is written as it is read.
declare const htmx: any;
declare const Idiomorph: any;
interface EventTarget {
  [property: string]: any;
}
interface Event {
  detail: any;
}
interface Element {
  setAttribute(name: string, value: string | number | boolean): void;
}
interface PromiseConstructor {
  new <T = any>(executor: (resolve: (value?: any) => void, reject: (reason?: any) => void) => void): Promise<T>;
}
declare class AudioWorkletProcessor {
  port: MessagePort;
}
declare function registerProcessor(name: string, processor: typeof AudioWorkletProcessor): void;
