/** Something that lives on the kernel's heap. */
export interface Deletable {
  delete(): void;
}

export interface Scope {
  /** Hands the object over: it is deleted when the scope ends. */
  own<T extends Deletable>(object: T): T;
}

/** Runs `work`; every owned kernel object is deleted afterwards, newest first, also when it throws. */
export function withScope<R>(work: (scope: Scope) => R): R {
  const owned: Deletable[] = [];
  try {
    return work({
      own(object) {
        owned.push(object);
        return object;
      },
    });
  } finally {
    for (let i = owned.length - 1; i >= 0; i--) owned[i]!.delete();
  }
}
