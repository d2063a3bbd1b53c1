// Made from the server's operations by `npm run api-types`; a test says when it is behind.

export interface Operations {
  /**
   * Every programme with how many cases it has, and which one is open.
   */
  "GET /programmes": {
    output: {
      list: {
        id: string;
        name: string;
        purpose: string;
        people: {
          initials: string;
          role: string;
        }[];
        limits: {
          quantity: string;
          limit: number;
        }[];
        decision: "both-ways" | "guarded" | "simple";
        stakes: {
          consequence: number;
          influence: number;
        } | null;
        rules: {
          key: string;
          name: string;
          left: string;
          relation: "at least" | "at most";
          right: string;
          severity: "stop" | "doubt" | "note";
          reason: string;
          by: string;
          at: string;
          findingId?: string;
        }[];
        cases: number;
      }[];
      current?: string;
    };
  };
  /**
   * Makes a programme and opens it.
   */
  "POST /programmes": {
    input: {
      name: string;
      purpose?: string;
    };
    output: {
      id: string;
    };
  };
  /**
   * Saves what a programme is for, who works on it, what hangs on it, and by which limits and rule its cases are judged.
   */
  "PUT /programmes/{id}": {
    input: {
      name: string;
      purpose?: string;
      /**
       * @maxItems 60
       */
      people: {
        initials: string;
        role: string;
      }[];
      /**
       * @maxItems 60
       */
      limits: {
        quantity: string;
        limit: string;
      }[];
      decision: "both-ways" | "guarded" | "simple";
      stakes: {
        consequence: 1 | 2 | 3 | 4;
        influence: 1 | 2 | 3 | 4;
      } | null;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Opens a programme: the board shows it, and new cases belong to it.
   */
  "POST /programmes/{id}/open": {
    output: {
      ok: true;
    };
  };
  /**
   * How far the applications of a programme are covered by its evidence, and which limits are wider than its own.
   */
  "GET /programmes/{id}/summary": {
    output: {
      points: {
        id: string;
        title: string;
      }[];
      applications: {
        id: string;
        title: string;
        coverage: {
          inside: boolean;
          sentence: string;
          [k: string]: unknown;
        };
      }[];
      wide: {
        caseId: string;
        title: string;
        quantityKey: string;
        quantity: string;
        limit: number;
        allowed: number;
      }[];
      waiting: number;
    };
  };
  /**
   * Takes the limits of a programme over to its cases where theirs are wider.
   */
  "POST /programmes/{id}/limits": {
    output: {
      changed: number;
    };
  };
  /**
   * Deletes a programme without cases; it can be restored.
   */
  "DELETE /programmes/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes the deletion of a programme back.
   */
  "POST /programmes/{id}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * Names a set-up rule may use in a case, with their values in SI.
   */
  "GET /cases/{id}/rule-names": {
    output: {
      name: string;
      unit: string;
      value: number;
    }[];
  };
  /**
   * Makes a set-up rule of the programme's own, written at one of its cases; what it says of that case is told.
   */
  "POST /cases/{id}/rules": {
    input: {
      name: string;
      left: string;
      relation: "at least" | "at most";
      right: string;
      severity: "stop" | "doubt" | "note";
      reason: string;
      by: string;
      findingId?: string;
    };
    output: {
      said: string;
    };
  };
  /**
   * Takes a set-up rule of a programme away.
   */
  "DELETE /programmes/{id}/rules/{rule}": {
    output: {
      ok: true;
    };
  };
  /**
   * Says which programme a case belongs to, where it stands towards the application, and marks it with words.
   */
  "PUT /cases/{id}/place": {
    input: {
      level: ("effect" | "benchmark" | "rig" | "application") | null;
      /**
       * @maxItems 20
       */
      tags: string[];
      programmeId: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * What is known of every case of the open programme, or of the one named: states, error sources, findings; and which cases are still being worked out.
   */
  "GET /board": {
    output: {
      rows: {
        id: string;
        title: string;
        kind: "exact" | "published" | "measured";
        leading: string;
        board: {
          settled: {
            state: string;
            figure: string;
          };
          balanced: {
            state: string;
            figure: string;
          };
          refined: {
            state: string;
            figure: string;
          };
          compared: {
            state: string;
            figure: string;
          };
        };
        verdicts: string[];
        openFindings: number;
        damaged: boolean;
        [k: string]: unknown;
      }[];
      waiting: {
        id: string;
        title: string;
      }[];
      broken: {
        id: string;
        title: string;
        sentence: string;
      }[];
      stamp: string;
    };
  };
  /**
   * Every quantity of a case as the board opens it: verdict, uncertainty, next step; empty while it is being worked out.
   */
  "GET /cases/{id}/lines": {
    output: {
      key: string;
      name: string;
      unit: string;
      value?: number;
      numerical: number;
      open: string[];
      largest?: string;
      limit: number;
      state: string;
      sentence: string;
      next?: {
        sentence: string;
        go: string;
      };
      [k: string]: unknown;
    }[];
  };
  /**
   * Every quantity of every case of the open programme, or of the one named, with its numerical uncertainty and its error sources, so that one quantity is seen over all cases.
   */
  "GET /quantities": {
    output: {
      lines: {
        key: string;
        name: string;
        unit: string;
        value?: number;
        numerical: number;
        open: string[];
        largest?: string;
        limit: number;
        state: string;
        sentence: string;
        next?: {
          sentence: string;
          go: string;
        };
        caseId: string;
        title: string;
        [k: string]: unknown;
      }[];
      waiting: {
        id: string;
        title: string;
      }[];
    };
  };
  /**
   * Names of all cases, in the order they were made.
   */
  "GET /cases": {
    output: {
      id: string;
      title: string;
    }[];
  };
  /**
   * Makes a case of a template, or one whose results come from files.
   */
  "POST /cases": {
    input: {
      title: string;
      purpose: string;
      parameters: {
        [k: string]: string;
      };
      fluidName: string;
      temperature: string;
      pressure: string;
      formulas?: {
        [k: string]: string;
      };
      problemId:
        | (
            | "plates"
            | "lidded-box"
            | "pipe"
            | "pipe-entry"
            | "cylinders"
            | "wake"
            | "eddies"
            | "chamber"
            | "step"
            | "post"
            | "post-shedding"
            | "heated"
            | "shock-tube"
            | "ramp"
            | "corner"
            | "contoured-duct"
            | "travelling-vortex"
            | "manufactured-flow"
            | "manufactured-carried"
            | "manufactured-gas"
          )
        | null;
      physics?: {
        time: "steady" | "transient";
        model: "laminar" | "turbulence model" | "turbulence resolved";
        space: "plane" | "axisymmetric" | "three-dimensional";
        part?: "whole" | "half model" | "periodic piece";
        share?: string;
        compressible?: boolean;
      };
      quantityName?: string;
      quantityUnit?: string;
      quantityKind?: "plain" | "cross-force" | "efficiency";
    };
    output: {
      id: string;
    };
  };
  /**
   * Saves the question: title, purpose, conditions, limits. What was taken for granted is said.
   */
  "PUT /cases/{id}": {
    input: {
      title: string;
      purpose: string;
      parameters: {
        [k: string]: string;
      };
      fluidName: string;
      temperature: string;
      pressure: string;
      reynolds: string;
      kinematicViscosity: string;
      physics?: {
        time: "steady" | "transient";
        model: "laminar" | "turbulence model" | "turbulence resolved";
        space: "plane" | "axisymmetric" | "three-dimensional";
        part?: "whole" | "half model" | "periodic piece";
        share?: string;
        compressible?: boolean;
      };
      stated?: {
        schemeOrder: "1" | "2" | "";
        dropOrders: string;
      };
      inputs?: {
        [k: string]: {
          uncertainty: string;
          sensitivities: {
            [k: string]: string;
          };
        };
      };
      /**
       * @maxItems 40
       */
      correlations?: {
        a: string;
        b: string;
        coefficient: string;
      }[];
      formulas?: {
        [k: string]: string;
      };
      facts?: {
        [k: string]: string;
      };
      scheme?: "upwind" | "central" | "linear-upwind" | "limited";
      riemannFlux?: "contact" | "linearised";
      limiter?: "none" | "bounds" | "smooth" | "first-order";
      courant?: string;
      maxIterations?: string;
      dropOrders: string;
      limits: {
        [k: string]: string;
      };
    };
    output: {
      said: string[];
    };
  };
  /**
   * What would go stale if the question were saved as it stands, and who can make it anew; nothing is stored.
   */
  "POST /cases/{id}/consequences": {
    input: {
      title: string;
      purpose: string;
      parameters: {
        [k: string]: string;
      };
      fluidName: string;
      temperature: string;
      pressure: string;
      reynolds: string;
      kinematicViscosity: string;
      physics?: {
        time: "steady" | "transient";
        model: "laminar" | "turbulence model" | "turbulence resolved";
        space: "plane" | "axisymmetric" | "three-dimensional";
        part?: "whole" | "half model" | "periodic piece";
        share?: string;
        compressible?: boolean;
      };
      stated?: {
        schemeOrder: "1" | "2" | "";
        dropOrders: string;
      };
      inputs?: {
        [k: string]: {
          uncertainty: string;
          sensitivities: {
            [k: string]: string;
          };
        };
      };
      /**
       * @maxItems 40
       */
      correlations?: {
        a: string;
        b: string;
        coefficient: string;
      }[];
      formulas?: {
        [k: string]: string;
      };
      facts?: {
        [k: string]: string;
      };
      scheme?: "upwind" | "central" | "linear-upwind" | "limited";
      riemannFlux?: "contact" | "linearised";
      limiter?: "none" | "bounds" | "smooth" | "first-order";
      courant?: string;
      maxIterations?: string;
      dropOrders: string;
      limits: {
        [k: string]: string;
      };
    };
    output: {
      changes: boolean;
      list: {
        what: string;
        names: string[];
        anew: string;
        sentence: string;
      }[];
    };
  };
  /**
   * Queues what the bench can make again with the present set-up, and says what a person must do.
   */
  "POST /cases/{id}/up-to-date": {
    output: {
      runs: string[];
      byHand: string[];
    };
  };
  /**
   * What rests on what in a case, from its files over runs and yardsticks to verdicts and reports, and what of it is stale.
   */
  "GET /cases/{id}/dependence": {
    output: {
      nodes: {
        id: string;
        column: string;
        label: string;
        fresh: boolean;
        go: string;
        [k: string]: unknown;
      }[];
      edges: string[][];
    };
  };
  /**
   * Deletes a case; it can be restored.
   */
  "DELETE /cases/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes the deletion of a case back.
   */
  "POST /cases/{id}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * Makes a case like another one: set-up, quantities, typed yardsticks and mesh rule, no runs.
   */
  "POST /cases/{id}/copy": {
    input: {
      title: string;
    };
    output: {
      id: string;
    };
  };
  /**
   * Everything that is said of a case: the object that screen and report show.
   */
  "GET /cases/{id}/assessment": {
    output: {
      caseId: string;
      stale: boolean;
      ladder: string[];
      verdicts: {
        quantityKey: string;
        state: string;
        word: string;
        sentence: string;
        [k: string]: unknown;
      }[];
      [k: string]: unknown;
    };
  };
  /**
   * How one run of a case settled: the part of the assessment that speaks of it.
   */
  "GET /cases/{id}/settling/{run}": {
    output: {
      runId: string;
      label: string;
      state: string;
      [k: string]: unknown;
    };
  };
  /**
   * Cases a set-up can be compared with.
   */
  "GET /cases/{id}/others": {
    output: {
      id: string;
      title: string;
    }[];
  };
  /**
   * What differs between the set-ups of two cases.
   */
  "GET /cases/{id}/compare/{other}": {
    output: {
      path: string;
      left: string;
      right: string;
    }[];
  };
  /**
   * Accepts a remark on the set-up, with a reason.
   */
  "POST /cases/{id}/answers": {
    input: {
      rule: string;
      reason: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Takes the answer to a remark back.
   */
  "DELETE /cases/{id}/answers/{rule}": {
    output: {
      ok: true;
    };
  };
  /**
   * Adds a typed yardstick.
   */
  "POST /cases/{id}/yardsticks": {
    input: {
      name: string;
      kind: "measured" | "table" | "other-code";
      source: string;
      validity: string;
      quantityKey: string;
      value: string;
      uncertainty: string;
      answers?: {
        [k: string]: string;
      };
    };
    output: {
      ok: true;
    };
  };
  /**
   * Deletes a typed yardstick; it can be restored.
   */
  "DELETE /yardsticks/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes the deletion of a yardstick back.
   */
  "POST /yardsticks/{id}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * Settles an error source by hand: estimated, bounded or not applicable, signed and with a reason.
   */
  "POST /cases/{id}/settlements": {
    input: {
      source:
        "round-off" | "iteration" | "averaging" | "mesh" | "time-step" | "balance" | "domain" | "inputs" | "reference";
      quantityKey: string | null;
      kind: "measured" | "estimated" | "bounded" | "not-applicable";
      value: string;
      reason: string;
      link?: string;
      by: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Takes back what was said of an error source.
   */
  "DELETE /cases/{id}/settlements/{source}/{quantity}": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes a run off the ladders, adopts a procedure for a quantity, or declares that one does not converge, says how the error of the finest mesh lies (signed and with a reason), or holds a run against those of other codes.
   */
  "POST /cases/{id}/studies": {
    input:
      | {
          kind: "leave-out";
          runId: string;
          reason: string;
          by: string;
        }
      | {
          kind: "adopt";
          quantityKey: string;
          procedure: "three-mesh" | "least-squares" | "factor-of-safety" | "correction-factor";
          reason: string;
          by: string;
        }
      | {
          kind: "divergent";
          quantityKey: string;
          reason: string;
          by: string;
        }
      | {
          kind: "spread";
          spread: "centred" | "shifted";
          reason: string;
          by: string;
        }
      | {
          kind: "amongst";
          runId: string;
        };
    output: {
      ok: true;
    };
  };
  /**
   * Takes back a decision about the ladders.
   */
  "DELETE /cases/{id}/studies/{kind}/{of}": {
    output: {
      ok: true;
    };
  };
  /**
   * States the precision a code works in, for every case computed with it.
   */
  "PUT /settings/precision": {
    input: {
      code: string;
      precision: "single" | "double" | "unknown";
    };
    output: {
      ok: true;
    };
  };
  /**
   * Writes a finding.
   */
  "POST /cases/{id}/findings": {
    input: {
      title: string;
      what: string;
      cause: string;
      change: string;
      shownBy: string | null;
      curedBy: string | null;
      causeKey?: string;
      severity?: "minor" | "major" | "blocking";
      owner?: string;
      test?: string;
      quantityKey?: string | null;
      stage?:
        | (
            | "question"
            | "yardsticks"
            | "meshes"
            | "runs"
            | "settling"
            | "balance"
            | "refinement"
            | "comparison"
            | "verdict"
            | "report"
          )
        | null;
    };
    output: {
      id: string;
    };
  };
  /**
   * Saves a finding.
   */
  "PUT /findings/{id}": {
    input: {
      title: string;
      what: string;
      cause: string;
      change: string;
      shownBy: string | null;
      curedBy: string | null;
      causeKey?: string;
      severity?: "minor" | "major" | "blocking";
      owner?: string;
      test?: string;
      quantityKey?: string | null;
      stage?:
        | (
            | "question"
            | "yardsticks"
            | "meshes"
            | "runs"
            | "settling"
            | "balance"
            | "refinement"
            | "comparison"
            | "verdict"
            | "report"
          )
        | null;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Deletes a finding; it can be restored.
   */
  "DELETE /findings/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes the deletion of a finding back.
   */
  "POST /findings/{id}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * How credible a quantity of a case is: eight factors with levels proposed from evidence, what would bring each further, and the code's proofs.
   */
  "GET /cases/{id}/credibility/{quantity}": {
    output: {
      quantityKey: string;
      code: string;
      lowest: number;
      lowestFactors: string[];
      target?: number;
      meetsTarget?: boolean;
      sentence: string;
      factors: {
        key: "code" | "solution" | "validation" | "inputs" | "uncertainty" | "robustness" | "history" | "people";
        name: string;
        level?: number;
        proposed?: number;
        criterion: string;
        because: string;
        changed?: string;
        [k: string]: unknown;
      }[];
      proofs: {
        caseId: string;
        title: string;
        field: string;
        order?: number;
        formalOrder: number;
        [k: string]: unknown;
      }[];
      [k: string]: unknown;
    };
  };
  /**
   * Says something of a factor: lower with a reason, raised with a document, or that it looks right; signed.
   */
  "POST /cases/{id}/credibility": {
    input: {
      factor: "code" | "solution" | "validation" | "inputs" | "uncertainty" | "robustness" | "history" | "people";
      kind: "lower" | "raise" | "looks-right";
      level?: number;
      reason: string;
      link?: string;
      by: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Takes back what was said of a factor.
   */
  "DELETE /cases/{id}/credibility/{factor}": {
    output: {
      ok: true;
    };
  };
  /**
   * Adds a quantity to a case whose results are brought in.
   */
  "POST /cases/{id}/quantities": {
    input: {
      name: string;
      unit: string;
      limit: string;
      kind?: "plain" | "cross-force" | "efficiency";
    };
    output: {
      ok: true;
    };
  };
  /**
   * Takes an added quantity off a case; it can be restored.
   */
  "DELETE /cases/{id}/quantities/{key}": {
    output: {
      ok: true;
    };
  };
  /**
   * Puts a quantity that was taken off back.
   */
  "POST /cases/{id}/quantities/{key}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * Chooses which statistic of its record stands for a quantity.
   */
  "PUT /cases/{id}/quantities/{key}/take": {
    input: {
      take: "last" | "mean" | "rms" | "amplitude" | "frequency" | "strouhal";
    };
    output: {
      ok: true;
    };
  };
  /**
   * States what a quantity is, where rules ask for it.
   */
  "PUT /cases/{id}/quantities/{key}/kind": {
    input: {
      kind: "plain" | "cross-force" | "efficiency";
    };
    output: {
      ok: true;
    };
  };
  /**
   * Fields, boundaries and extent that a watched quantity can ask for.
   */
  "GET /cases/{id}/monitors": {
    output: {
      fields: {
        key: string;
        name: string;
        unit: string;
      }[];
      carried: string[];
      boundaries: string[];
      /**
       * @minItems 2
       * @maxItems 2
       */
      extentM: [[number, number], [number, number]];
    };
  };
  /**
   * Adds a quantity that later runs of the bench watch.
   */
  "POST /cases/{id}/monitors": {
    input: {
      name: string;
      limit: string;
      monitor:
        | {
            on: "point";
            field: string;
            /**
             * @minItems 2
             * @maxItems 2
             */
            at: [number, number];
          }
        | {
            on: "line";
            field: string;
            /**
             * @minItems 2
             * @maxItems 2
             */
            from: [number, number];
            /**
             * @minItems 2
             * @maxItems 2
             */
            to: [number, number];
            take:
              | "mean"
              | "lowest"
              | "highest"
              | "place of the lowest"
              | "place of the highest"
              | "place of the steepest slope";
          }
        | {
            on: "volume";
            field: string;
            take:
              | "mean"
              | "integral"
              | "lowest"
              | "highest"
              | "x of the lowest"
              | "y of the lowest"
              | "x of the highest"
              | "y of the highest";
          }
        | {
            on: "boundary";
            boundary: string;
            take:
              | "mass flow out"
              | "force along x"
              | "force along y"
              | "force along x by pressure"
              | "force along y by pressure"
              | "force along x by shear"
              | "force along y by shear"
              | "flow out of a carried quantity"
              | "place where the flow along it first turns"
              | "place where the flow along it last turns";
            carried?: string;
          };
      kind?: "plain" | "cross-force" | "efficiency";
    };
    output: {
      ok: true;
    };
  };
  /**
   * Adds a quantity worked out of others by a formula.
   */
  "POST /cases/{id}/derived": {
    input: {
      name: string;
      formula: string;
      unit: string;
      limit: string;
      kind?: "plain" | "cross-force" | "efficiency";
    };
    output: {
      ok: true;
    };
  };
  /**
   * Lists the solutions of the library with their parameters, formulas and sources.
   */
  "GET /library": {
    output: {
      id: string;
      name: string;
      subject: string;
      nature: string;
      uncertainty: number;
      source: string;
      formulas: string[];
      parameters: {
        key: string;
        label: string;
        unit: string;
        preset: number;
        low: number;
        high: number;
      }[];
    }[];
  };
  /**
   * Works a solution out at parameters as typed: figures, sampled curves, and whether it holds there.
   */
  "POST /library/{solution}": {
    input: {
      parameters: {
        [k: string]: string;
      };
      samples?: number;
    };
    output: {
      inside: boolean;
      range: {
        sentence: string;
        inside: boolean;
      }[];
      values: {
        key: string;
        name: string;
        unit: string;
        value: number;
        uncertainty: number;
      }[];
      curves: {
        key: string;
        name: string;
        x: {
          name: string;
          unit: string;
          log?: boolean;
        };
        y: {
          name: string;
          unit: string;
          log?: boolean;
        };
        points: [number, number][];
      }[];
      [k: string]: unknown;
    };
  };
  /**
   * A manufactured case written out: fields, sources, the terms it exercises, and the sources held against differences.
   */
  "GET /cases/{id}/manufactured": {
    output: {
      fields: {
        key: string;
        name: string;
        unit: string;
        text: string;
        typeset?: string;
      }[];
      sources: {
        key: string;
        name: string;
        unit: string;
        text: string;
        typeset?: string;
      }[];
      terms: {
        equation: string;
        term: string;
        size: number;
        share: number;
        untested: boolean;
      }[];
      distance: number;
    };
  };
  /**
   * The same as a file: c, python, fortran, json, latex or text.
   */
  "GET /cases/{id}/manufactured/{language}": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Exact means of a manufactured case over the cells of a mesh, or what flows through its faces, as CSV: cells or faces, and a mesh such as 32x32.
   */
  "GET /cases/{id}/exact/{what}/{mesh}": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Lists the solutions of the library by how well they go with a case.
   */
  "GET /cases/{id}/library": {
    output: {
      id: string;
      name: string;
      inside: boolean;
      against: string[];
    }[];
  };
  /**
   * Takes a solution of the library as a yardstick of a case.
   */
  "POST /cases/{id}/library/{solution}": {
    input: {
      name: string;
      parameters: {
        [k: string]: string;
      };
      /**
       * @maxItems 40
       */
      followed: string[];
      /**
       * @maxItems 40
       */
      values: {
        from: string;
        quantityKey: string;
        sign?: 1 | -1;
      }[];
      /**
       * @maxItems 40
       */
      curves: {
        from: string;
        profileKey: string;
      }[];
    };
    output: {
      ok: true;
    };
  };
  /**
   * Reads a table of curves: what its columns are, the curves they make, points that do not go with their neighbours; stores nothing.
   */
  "POST /curves/preview": {
    input: {
      file:
        | {
            name: string;
            text: string;
          }
        | {
            reading: string;
          };
      mapping?: {
        /**
         * @maxItems 400
         */
        roles: ("abscissa" | "station" | "value" | "uncertainty" | "place-uncertainty" | "ignore")[];
        /**
         * @maxItems 400
         */
        units: (string | null)[];
        coverage?: 1 | 2;
        own?: string;
        shared?: string;
        place?: string;
      };
    };
    output: {
      header: string[];
      units: (string | null)[];
      rows: number;
      sample: string[][];
      roles: string[];
      curves: {
        name: string;
        station?: number;
        axes: {
          name: string;
          abscissa: {
            name: string;
            unit: string;
          };
          value: {
            name: string;
            unit: string;
          };
        };
        abscissa: number[];
        value: number[];
        own?: number[];
        shared?: number[];
        place?: number[];
        repeats: number;
        proposals: {
          index: number;
          reason: string;
        }[];
      }[];
      notes: string[];
      problems: {
        file?: string;
        line: number;
        column?: string;
        sentence: string;
      }[];
    };
  };
  /**
   * Takes curves of a file as a yardstick, with uncertainties, conditions and provenance.
   */
  "POST /cases/{id}/curves": {
    input: {
      name: string;
      kind: "measured" | "table" | "other-code";
      source: string;
      validity?: string;
      who?: string;
      how?: string;
      when?: string;
      conditions?: {
        [k: string]: string;
      };
      file:
        | {
            name: string;
            text: string;
          }
        | {
            reading: string;
          };
      mapping: {
        /**
         * @maxItems 400
         */
        roles: ("abscissa" | "station" | "value" | "uncertainty" | "place-uncertainty" | "ignore")[];
        /**
         * @maxItems 400
         */
        units: (string | null)[];
        coverage?: 1 | 2;
        own?: string;
        shared?: string;
        place?: string;
      };
      windowFrom?: string;
      windowTo?: string;
      targets?: {
        [k: string]: string;
      };
      believed?: {
        /**
         * @maxItems 1000
         */
        [k: string]: number[];
      };
    };
    output: {
      ok: true;
    };
  };
  /**
   * Takes curves read off an uploaded picture as a yardstick: places in pixels, calibrated by two of each axis.
   */
  "POST /cases/{id}/figures": {
    input: {
      name: string;
      kind: "measured" | "table" | "other-code";
      source: string;
      validity?: string;
      who?: string;
      how?: string;
      when?: string;
      conditions?: {
        [k: string]: string;
      };
      picture: {
        hash: string;
        name: string;
        sourceHash?: string;
      };
      calibration: {
        x: {
          /**
           * @minItems 2
           * @maxItems 2
           */
          at: [[number, number], [number, number]];
          /**
           * @minItems 2
           * @maxItems 2
           */
          values: [number, number];
          log: boolean;
        };
        y: {
          /**
           * @minItems 2
           * @maxItems 2
           */
          at: [[number, number], [number, number]];
          /**
           * @minItems 2
           * @maxItems 2
           */
          values: [number, number];
          log: boolean;
        };
      };
      x: {
        name: string;
        unit: string;
      };
      y: {
        name: string;
        unit: string;
      };
      doubt: {
        reading: number;
        calibration: number;
      };
      coverage: 1 | 2;
      /**
       * @minItems 1
       * @maxItems 60
       */
      curves: {
        name: string;
        target: string;
        /**
         * @minItems 2
         * @maxItems 2000
         */
        places: {
          /**
           * @minItems 2
           * @maxItems 2
           */
          at: [number, number];
          /**
           * @minItems 2
           * @maxItems 2
           */
          bar?: [number, number];
        }[];
      }[];
    };
    output: {
      ok: true;
    };
  };
  /**
   * The picture a yardstick was read off.
   */
  "GET /yardsticks/{id}/picture": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Adds curves of a file to a run that was brought in.
   */
  "POST /runs/{id}/curves": {
    input: {
      file:
        | {
            name: string;
            text: string;
          }
        | {
            reading: string;
          };
      mapping: {
        /**
         * @maxItems 400
         */
        roles: ("abscissa" | "station" | "value" | "uncertainty" | "place-uncertainty" | "ignore")[];
        /**
         * @maxItems 400
         */
        units: (string | null)[];
        coverage?: 1 | 2;
        own?: string;
        shared?: string;
        place?: string;
      };
      targets?: {
        [k: string]: string;
      };
      replace?: boolean;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Marks a point of a yardstick as doubtful, with a reason, or takes that back.
   */
  "POST /yardsticks/{id}/doubts": {
    input: {
      profileKey: string;
      index: number;
      reason: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * States how the figures of a curve are turned before they are compared: a factor, a shift and the sign of each axis. With nothing typed they count as they are.
   */
  "POST /yardsticks/{id}/turns": {
    input: {
      profileKey: string;
      inclined?: string;
      abscissa: {
        times?: string;
        plus?: string;
        otherSign?: boolean;
      };
      value: {
        times?: string;
        plus?: string;
        otherSign?: boolean;
      };
    };
    output: {
      ok: true;
    };
  };
  /**
   * What moved between the versions of a code over the benchmarks of the open programme, by how much, and with which version.
   */
  "GET /rounds": {
    output: {
      codes: {
        code: string;
        versions: number;
      }[];
      rounds?: {
        code: string;
        versions: string[];
        lines: {
          caseId: string;
          title: string;
          name: string;
          cells: {
            version: string;
            value: number;
            runId: string;
            change?: number;
            moved?: boolean;
            [k: string]: unknown;
          }[];
          [k: string]: unknown;
        }[];
        moved: {
          [k: string]: number;
        };
        [k: string]: unknown;
      };
      sentence: string;
      benchVersion: string;
      waiting: number;
    };
  };
  /**
   * Queues a round of the bench: the leading run of every bench case once more, by the version that runs now.
   */
  "POST /rounds": {
    input: {
      /**
       * @maxItems 500
       */
      cases?: string[];
    };
    output: {
      runs: string[];
      had: number;
    };
  };
  /**
   * How many runs of a round are still to be computed, and which failed.
   */
  "POST /rounds/state": {
    input: {
      /**
       * @maxItems 500
       */
      runs: string[];
    };
    output: {
      open: number;
      failed: string[];
    };
  };
  /**
   * A page of the time line, the newest entries first: what was changed, when, of which case, and by whom where it was signed.
   */
  "GET /time-line": {
    output: {
      sequence: number;
      at: string;
      says: string;
      method: string;
      path: string;
      caseId: string | null;
      title?: string;
      by: string | null;
      inputHash: string;
      before: string;
      hash: string;
    }[];
  };
  /**
   * Whether every entry of the time line is as it was entered, by the chain of their hashes.
   */
  "GET /time-line/check": {
    output: {
      entries: number;
      broken?: number;
      hash: string;
      sentence: string;
    };
  };
  /**
   * Queues a family of runs.
   */
  "POST /cases/{id}/family": {
    input: {
      baseNx: number;
      baseNy: number;
      ratio: number;
      count: number;
      gradingX:
        | {
            kind: "uniform";
          }
        | {
            kind: "both-ends" | "low-end" | "high-end";
            strength: number;
          };
      gradingY:
        | {
            kind: "uniform";
          }
        | {
            kind: "both-ends" | "low-end" | "high-end";
            strength: number;
          };
      shape?: "rows" | "smooth" | "jittered" | "triangles" | "hexagons";
    };
    output: string[];
  };
  /**
   * Queues the newest family again with the present set-up.
   */
  "POST /cases/{id}/family/again": {
    output: string[];
  };
  /**
   * Queues runs on the mesh of another that differ from the case in its time step, the extent of its domain or its tolerance alone.
   */
  "POST /cases/{id}/ladder": {
    input: {
      axis: "time-step" | "domain" | "tolerance";
      runId: string;
      /**
       * @minItems 1
       * @maxItems 6
       */
      values: number[];
    };
    output: string[];
  };
  /**
   * Queues runs over one or two conditions.
   */
  "POST /cases/{id}/sweeps": {
    input: {
      /**
       * @minItems 1
       * @maxItems 2
       */
      axes: {
        key: string;
        /**
         * @minItems 2
         * @maxItems 12
         */
        values: string[];
      }[];
      nx: number;
      ny: number;
      priority?: number;
    };
    output: {
      id: string;
    };
  };
  /**
   * Queues the runs that tell what quantities answer to: central differences, or a sample, over the stated uncertainties of the conditions.
   */
  "POST /cases/{id}/input-runs": {
    input: {
      way: "differences" | "sample";
      count?: number;
      seed?: number;
      nx: number;
      ny: number;
      priority?: number;
    };
    output: {
      id: string;
    };
  };
  /**
   * Says with which version, options, compiler and machine of its code a brought-in run was made.
   */
  "PUT /runs/{id}/build": {
    input: {
      version?: string;
      options?: string;
      compiler?: string;
      machine?: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * States that a brought-in run was made at a condition other than the case's, or takes that back: such runs are a curve over the condition.
   */
  "PUT /runs/{id}/condition": {
    input: {
      key?: string;
      name?: string;
      unit?: string;
      value?: string;
      /**
       * @maxItems 200
       */
      also?: string[];
    };
    output: {
      ok: true;
    };
  };
  /**
   * Deletes a sweep with its runs.
   */
  "DELETE /sweeps/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Queues a run again with the same settings.
   */
  "POST /runs/{id}/again": {
    output: {
      id: string;
    };
  };
  /**
   * Queues a run like another one with other cells, numerics or stop rules.
   */
  "POST /runs/{id}/copy": {
    input: {
      nx: number;
      ny: number;
      shape?: "rows" | "smooth" | "jittered" | "triangles" | "hexagons";
      scheme: "upwind" | "central" | "linear-upwind" | "limited";
      riemannFlux?: "contact" | "linearised";
      limiter?: "none" | "bounds" | "smooth" | "first-order";
      courant?: number;
      dropOrders: number;
      maxIterations: number;
      longestS?: number;
      onceSteady?: boolean;
      moments?: number;
      priority: number;
      startFrom?: string;
    };
    output: {
      id: string;
    };
  };
  /**
   * Finished runs a copy of this one could start from.
   */
  "GET /runs/{id}/starts": {
    output: {
      id: string;
      label: string;
      cells: number;
    }[];
  };
  /**
   * Deletes a run that is not under way; it can be restored.
   */
  "DELETE /runs/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes the deletion of a run back.
   */
  "POST /runs/{id}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * Stops a run and keeps what it has; one that waits leaves the queue.
   */
  "POST /runs/{id}/stop": {
    output: {
      ok: true;
    };
  };
  /**
   * Holds a run where it is.
   */
  "POST /runs/{id}/pause": {
    output: {
      ok: true;
    };
  };
  /**
   * Lets a held or stopped run go on.
   */
  "POST /runs/{id}/resume": {
    output: {
      ok: true;
    };
  };
  /**
   * Chooses the field a run under way shows.
   */
  "POST /runs/{id}/show": {
    input: {
      name: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Moves a waiting run forward or back in the queue.
   */
  "PUT /runs/{id}/priority": {
    input: {
      priority: number;
    };
    output: {
      ok: true;
    };
  };
  /**
   * How many runs the bench computes at once.
   */
  "PUT /settings/cores": {
    input: {
      cores: number;
    };
    output: {
      ok: true;
    };
  };
  /**
   * What happens to the runs of all cases, as it happens.
   */
  "GET /events": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * The last state of the runs of a case that are under way, for a page that has just begun to listen.
   */
  "GET /cases/{id}/under-way": {
    output: {
      type: string;
      runId: string;
      [k: string]: unknown;
    }[];
  };
  /**
   * The record of a run, thinned for drawing; what is stored stays whole.
   */
  "GET /runs/{id}/history": {
    output: {
      iteration: (number | null)[];
      time?: (number | null)[];
      residuals: {
        [k: string]: (number | null)[];
      };
      quantities: {
        [k: string]: (number | null)[];
      };
      balances?: {
        [k: string]: (number | null)[];
      };
      starts?: {
        [k: string]: number;
      };
    };
  };
  /**
   * The whole record of a run, every column with its unit.
   */
  "GET /runs/{id}/history.csv": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * How the record of a run is read: what is left out, where it starts, whether means count.
   */
  "PUT /runs/{id}/judging": {
    input: {
      cut?: number;
      cuts?: {
        [k: string]: number;
      };
      average?: boolean;
      startEntry?: number;
      stretchFrom?: number;
    };
    output: {
      ok: true;
    };
  };
  /**
   * One averaged record: its average, running mean, histogram, spectrum, one period.
   */
  "GET /runs/{id}/records/{key}": {
    output: unknown;
  };
  /**
   * The mesh a run's fields lie on, packed as it was kept.
   */
  "GET /runs/{id}/mesh": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Names and units of the fields a run left behind.
   */
  "GET /runs/{id}/fields": {
    output: {
      name: string;
      unit: string;
    }[];
  };
  /**
   * Runs of a case that left fields, with the names of these.
   */
  "GET /cases/{id}/fields": {
    output: {
      runId: string;
      label: string;
      code: string;
      spacing: number;
      fields: string[];
    }[];
  };
  /**
   * Looks at an uploaded file with a grid: its cells, its arrays and what they may be; stores nothing.
   */
  "POST /runs/{id}/grid/look": {
    input: {
      hash: string;
      cut?:
        | {
            across: 0 | 1 | 2;
            at: number;
          }
        | {
            /**
             * @minItems 3
             * @maxItems 3
             */
            normal: [number, number, number];
            /**
             * @minItems 3
             * @maxItems 3
             */
            through: [number, number, number];
          };
    };
    output: {
      points: number;
      low: number[];
      high: number[];
      solid: number;
      cells: number;
      kinds: {
        name: string;
        count: number;
      }[];
      arrays: {
        name: string;
        on: "cells" | "points";
        components: number;
        low: number | null;
        high: number | null;
        role: "ignore" | "velocity" | "velocity-x" | "velocity-y" | "pressure" | "temperature" | "density" | "other";
        unit: string;
        said: boolean;
      }[];
      notes: string[];
      plane?: {
        cells: number;
        width: number;
        height: number;
      };
      quality?: {
        cells: number;
        faces: number;
        outside: number;
        volume: number;
        inverted: number[];
        open: number[];
        crowded: number;
        interfaces?: {
          faces: number;
          area: number;
          open: number;
          /**
           * @minItems 3
           * @maxItems 3
           */
          at: [number, number, number];
        };
        layers: {
          name: string;
          faces: number;
          cells: number;
          layered: number;
          height?: {
            least: number;
            median: number;
            greatest: number;
          };
          layers?: {
            least: number;
            median: number;
            greatest: number;
          };
          growth?: {
            least: number;
            median: number;
            greatest: number;
          };
          thinnest?: {
            cell: number;
            /**
             * @minItems 3
             * @maxItems 3
             */
            at: [number, number, number];
          };
          steepest?: {
            cell: number;
            /**
             * @minItems 3
             * @maxItems 3
             */
            at: [number, number, number];
          };
        }[];
        metrics: {
          metric: "nonOrthogonality" | "skewness" | "equiangle" | "aspect" | "volumeRatio" | "areaRatio" | "warpage";
          limit: number;
          worst: number;
          median: number;
          beyond: number;
          least: number;
          counts: number[];
          cells: {
            cell: number;
            value: number;
            /**
             * @minItems 3
             * @maxItems 3
             */
            at: [number, number, number];
          }[];
        }[];
      };
      refusal?: string;
    };
  };
  /**
   * Gives a brought-in run its mesh and fields from an uploaded file with a plane grid.
   */
  "POST /runs/{id}/grid": {
    input: {
      hash: string;
      name: string;
      length: string;
      /**
       * @minItems 1
       * @maxItems 2000
       */
      arrays: {
        name: string;
        on: "cells" | "points";
        role: "ignore" | "velocity" | "velocity-x" | "velocity-y" | "pressure" | "temperature" | "density" | "other";
        unit: string;
      }[];
      cut?:
        | {
            across: 0 | 1 | 2;
            at: number;
          }
        | {
            /**
             * @minItems 3
             * @maxItems 3
             */
            normal: [number, number, number];
            /**
             * @minItems 3
             * @maxItems 3
             */
            through: [number, number, number];
          };
      replace?: boolean;
    };
    output: {
      notes: string[];
    };
  };
  /**
   * Judges the cells of an uploaded grid in space and keeps their quality with the run, by limits of one's own where they are given.
   */
  "POST /runs/{id}/grid/quality": {
    input: {
      hash: string;
      name: string;
      length: string;
      limits?: {
        [k: string]: number;
      };
    };
    output: {
      ok: true;
    };
  };
  /**
   * The file of a run that lies in space: whose cells were judged or cut, or the surface the flow acts on.
   */
  "GET /runs/{id}/space/file": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Result files that stand beside the log a run follows.
   */
  "GET /runs/{id}/watched": {
    output: {
      name: string;
      bytes: number;
      changedMs: number;
    }[];
  };
  /**
   * One of these files.
   */
  "GET /runs/{id}/watched/{name}": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Reads a run's file in space along a line, straight or with corners, and keeps the curve with the run.
   */
  "POST /runs/{id}/space/line": {
    input: {
      name: string;
      of: {
        name: string;
        on: "cells" | "points";
      };
      component: number | "size";
      smooth: boolean;
      unit: string;
      /**
       * @minItems 3
       * @maxItems 3
       */
      from: [number, number, number];
      /**
       * @minItems 3
       * @maxItems 3
       */
      to: [number, number, number];
      /**
       * @maxItems 20
       */
      by?: [number, number, number][];
      count: number;
      against: "way" | "x" | "y" | "z";
      replace?: boolean;
    };
    output: {
      notes: string[];
    };
  };
  /**
   * One field, little-endian, one number a cell: doubles, or single precision in a gzip, which is what is drawn.
   */
  "GET /runs/{id}/fields/{name}": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Times of a run in time at which its fields were kept, with their names and units.
   */
  "GET /runs/{id}/moments": {
    output: {
      at: number;
      timeS: number;
      fields: {
        name: string;
        unit: string;
      }[];
    }[];
  };
  /**
   * One field at one of these times: little-endian single precision in a gzip, one number a cell.
   */
  "GET /runs/{id}/moments/{at}/{name}": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * A picture of a field at each of these times, all on one scale, with a table of the times.
   */
  "GET /runs/{id}/moments.zip": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * All fields on their mesh in an open format for unstructured grids.
   */
  "GET /runs/{id}/fields.vtu": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * All fields as a table, a row a cell.
   */
  "GET /runs/{id}/fields.csv": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Looks at an uploaded file with a surface (VTK XML, STL, PLY): its pieces, its arrays, what is wrong with it; stores nothing.
   */
  "POST /runs/{id}/surface/look": {
    input: {
      hash: string;
      division?:
        | {
            by: "angle";
            degrees: number;
          }
        | {
            by: "array";
            array: string;
          }
        | {
            by: "parts";
          };
    };
    output: {
      faces: number;
      points: number;
      /**
       * @minItems 3
       * @maxItems 3
       */
      low: [number, number, number];
      /**
       * @minItems 3
       * @maxItems 3
       */
      high: [number, number, number];
      normals: "out of the body" | "into the body";
      why: string;
      arrays: {
        name: string;
        on: "cells" | "points";
        components: number;
        role:
          | "ignore"
          | "pressure"
          | "shear"
          | "shear-x"
          | "shear-y"
          | "shear-z"
          | "velocity"
          | "velocity-x"
          | "velocity-y"
          | "velocity-z"
          | "density"
          | "temperature";
        unit: string;
      }[];
      divisions: (
        | {
            by: "angle";
            degrees: number;
          }
        | {
            by: "array";
            array: string;
          }
        | {
            by: "parts";
          }
      )[];
      shells: {
        faces: number;
        area: number;
        gap: number;
        closed: boolean;
        volume?: number;
      }[];
      rims: {
        edges: number;
        length: number;
        /**
         * @minItems 3
         * @maxItems 3
         */
        at: [number, number, number];
      }[];
      turned: {
        faces: number;
        /**
         * @minItems 3
         * @maxItems 3
         */
        at?: [number, number, number];
      };
      twice: number;
      crowded: number;
      oneSided: number;
      division:
        | {
            by: "angle";
            degrees: number;
          }
        | {
            by: "array";
            array: string;
          }
        | {
            by: "parts";
          };
      pieces: {
        called?: string;
        faces: number;
        area: number;
        /**
         * @minItems 3
         * @maxItems 3
         */
        at: [number, number, number];
        /**
         * @minItems 3
         * @maxItems 3
         */
        facing: [number, number, number];
      }[];
      names: string[];
      notes: string[];
    };
  };
  /**
   * Gives a brought-in run its surface: patches named, pressure and shear integrated over them, held against the forces that were reported.
   */
  "POST /runs/{id}/surface": {
    input: {
      hash: string;
      name: string;
      length: string;
      /**
       * @maxItems 2000
       */
      arrays: {
        name: string;
        on: "cells" | "points";
        role:
          | "ignore"
          | "pressure"
          | "shear"
          | "shear-x"
          | "shear-y"
          | "shear-z"
          | "velocity"
          | "velocity-x"
          | "velocity-y"
          | "velocity-z"
          | "density"
          | "temperature";
        unit: string;
      }[];
      division:
        | {
            by: "angle";
            degrees: number;
          }
        | {
            by: "array";
            array: string;
          }
        | {
            by: "parts";
          };
      /**
       * @maxItems 2000
       */
      names: {
        /**
         * @minItems 3
         * @maxItems 3
         */
        at: [number, number, number];
        name: string;
      }[];
      /**
       * @maxItems 200
       */
      splits: (
        | {
            by: "plane";
            of: string;
            /**
             * @minItems 3
             * @maxItems 3
             */
            at: [number, number, number];
            /**
             * @minItems 3
             * @maxItems 3
             */
            normal: [number, number, number];
            name: string;
          }
        | {
            by: "box";
            of: string;
            /**
             * @minItems 3
             * @maxItems 3
             */
            low: [number, number, number];
            /**
             * @minItems 3
             * @maxItems 3
             */
            high: [number, number, number];
            name: string;
          }
        | {
            by: "normal";
            of: string;
            /**
             * @minItems 3
             * @maxItems 3
             */
            direction: [number, number, number];
            withinDeg: number;
            name: string;
          }
        | {
            by: "smooth";
            of: string;
            /**
             * @minItems 3
             * @maxItems 3
             */
            at: [number, number, number];
            degrees: number;
            name: string;
          }
      )[];
      normals: "out of the body" | "into the body";
      shearOn: "wall" | "fluid";
      reference: string;
      /**
       * @minItems 3
       * @maxItems 3
       */
      aboutM: [number, number, number];
      /**
       * @maxItems 60
       */
      links: {
        quantityKey: string;
        of: "force" | "moment";
        /**
         * @maxItems 200
         */
        patches: string[];
        /**
         * @minItems 3
         * @maxItems 3
         */
        direction: [number, number, number];
        factor: number;
        coefficient?: {
          density: string;
          speed: string;
          area: string;
          length?: string;
        };
      }[];
    };
    output: {
      notes: string[];
    };
  };
  /**
   * Cuts a run's surface at stations and keeps the curves of pressure, shear or temperature along the cuts with the run.
   */
  "POST /runs/{id}/surface/curves": {
    input: {
      across: 0 | 1 | 2;
      along: 0 | 1 | 2;
      /**
       * @minItems 1
       * @maxItems 100
       */
      stations: number[];
      of: "pressure" | "shear" | "temperature";
      abscissa: "axis" | "share" | "arc";
      coefficient?: {
        density: string;
        speed: string;
      };
      /**
       * @minItems 2
       * @maxItems 2
       */
      names: [string, string];
      replace?: boolean;
    };
    output: {
      kept: string[];
      notes: string[];
    };
  };
  /**
   * Reads a run's surface at the points of a table (x, y, z, and what was measured there) and keeps both sides for the comparison.
   */
  "POST /runs/{id}/surface/points": {
    input: {
      file: {
        name: string;
        text: string;
      };
      of: "pressure" | "temperature";
      name: string;
      yardstick?: {
        source: string;
        uncertainty: string;
      };
      replace?: boolean;
    };
    output: {
      notes: string[];
    };
  };
  /**
   * Takes a run's surface away again; its file goes with the sweep.
   */
  "DELETE /runs/{id}/surface": {
    output: {
      ok: true;
    };
  };
  /**
   * The file of a run's surface, as it was brought in.
   */
  "GET /runs/{id}/surface/file": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Autopilots of a case, the latest first, with every step and its reason.
   */
  "GET /cases/{id}/pilots": {
    output: {
      pilots: {
        id: string;
        quantityKey: string;
        target: number;
        mostCells: number;
        longestS: number;
        state: "under way" | "reached" | "ended" | "stopped";
        reason: string | null;
        steps: {
          runId: string;
          label: string;
          why: string;
        }[];
      }[];
    };
  };
  /**
   * Takes a quantity to an uncertainty: coarse meshes first, then finer ones until it is reached or the cells or the time are used up.
   */
  "POST /cases/{id}/pilots": {
    input: {
      quantityKey: string;
      target: string;
      mostCells: number;
      minutes: number;
    };
    output: {
      id: string;
    };
  };
  /**
   * Stops an autopilot and the run it waits for; what was computed is kept.
   */
  "POST /pilots/{id}/stop": {
    output: {
      ok: true;
    };
  };
  /**
   * Takes a file of up to 2000 MB in pieces; it is read by an operation of its own.
   */
  "POST /uploads": {
    output: {
      hash: string;
      bytes: number;
    };
  };
  /**
   * Begins to read an uploaded file, or a log in a watched folder.
   */
  "POST /cases/{id}/readings": {
    input:
      | {
          name: string;
          hash: string;
          sheet?: string;
        }
      | {
          log: string;
        };
    output: {
      id: string;
    };
  };
  /**
   * How far a reading is, and what was found once it is done.
   */
  "GET /cases/{id}/readings/{reading}": {
    output: {
      name: string;
      state: "reading" | "done" | "refused" | "stopped";
      read: number;
      total: number;
      rows: number;
      sheets?: string[];
      problems: {
        file?: string;
        line: number;
        column?: string;
        sentence: string;
      }[];
      preview?: {
        header: string[];
        units: string[];
        delimiter: string;
        rows: number;
        sample: string[][];
        roles: string[];
        recipe?: {
          name: string;
          code: string;
          dimension: 2 | 3;
        };
        notes: string[];
      };
    };
  };
  /**
   * Whether a mapping of columns can be used, and what it leaves out.
   */
  "POST /cases/{id}/readings/{reading}/check": {
    input: {
      /**
       * @maxItems 400
       */
      roles: string[];
      /**
       * @maxItems 400
       */
      units?: (string | null)[];
    };
    output: {
      problems: {
        file?: string;
        line: number;
        column?: string;
        sentence: string;
      }[];
      notes: string[];
    };
  };
  /**
   * A column for drawing: lowest and highest of every stretch.
   */
  "GET /cases/{id}/readings/{reading}/columns/{index}": {
    output: {
      at: number[];
      values: (number | null)[];
      gaps: number;
    };
  };
  /**
   * Stops a reading and forgets its file unless something else names it.
   */
  "DELETE /cases/{id}/readings/{reading}": {
    output: {
      ok: true;
    };
  };
  /**
   * Logs in the watched folders, the newest first.
   */
  "GET /logs": {
    output: {
      name: string;
      path: string;
      bytes: number;
      changedAt: string;
    }[];
  };
  /**
   * Reads files and guesses what their columns and rows are; stores nothing.
   */
  "POST /cases/{id}/preview": {
    input: {
      history: {
        name: string;
        text: string;
      } | null;
      quantities: {
        name: string;
        text: string;
      } | null;
    };
    output: {
      history?: {
        header: string[];
        units: string[];
        delimiter: string;
        rows: number;
        sample: string[][];
        roles: string[];
        recipe?: {
          name: string;
          code: string;
          dimension: 2 | 3;
        };
        notes: string[];
      };
      quantities?: {
        rows: {
          line: number;
          name: string;
          value: number;
          unit?: string;
        }[];
        roles: string[];
      };
      problems: {
        file?: string;
        line: number;
        column?: string;
        sentence: string;
      }[];
    };
  };
  /**
   * Makes a run of confirmed files.
   */
  "POST /cases/{id}/bring-in": {
    input: {
      label: string;
      code: string;
      cells: number;
      volume: string;
      build?: {
        version?: string;
        options?: string;
        compiler?: string;
        machine?: string;
      };
      dimension?: 2 | 3;
      /**
       * @maxItems 400
       */
      roles: string[];
      /**
       * @maxItems 400
       */
      units?: (string | null)[];
      recipe?: string;
      history:
        | (
            | {
                name: string;
                text: string;
              }
            | {
                reading: string;
              }
          )
        | null;
      quantities: {
        name: string;
        text: string;
      } | null;
      /**
       * @maxItems 4000
       */
      rowRoles: string[];
      /**
       * @maxItems 4000
       */
      rowUnits?: (string | null)[];
      fluxes?: {
        signs: "outward" | "inward" | "by-name";
        factor: number;
      };
      own?: {
        schemeOrder?: 1 | 2;
        dropOrders?: number;
        timeStepS?: number;
        domainM?: number;
        note?: string;
      };
    };
    output: {
      id: string;
    };
  };
  /**
   * Makes a run of every file of a family; none unless all can be read.
   */
  "POST /cases/{id}/bring-in-family": {
    input: {
      code: string;
      volume: string;
      build?: {
        version?: string;
        options?: string;
        compiler?: string;
        machine?: string;
      };
      dimension?: 2 | 3;
      /**
       * @maxItems 400
       */
      roles: string[];
      /**
       * @maxItems 400
       */
      units?: (string | null)[];
      recipe?: string;
      fluxes?: {
        signs: "outward" | "inward" | "by-name";
        factor: number;
      };
      own?: {
        schemeOrder?: 1 | 2;
        dropOrders?: number;
        timeStepS?: number;
        domainM?: number;
        note?: string;
      };
      columnRoles: {
        [k: string]: string;
      };
      columnUnits?: {
        [k: string]: string;
      };
      rowRolesByName?: {
        [k: string]: string;
      };
      rowUnitsByName?: {
        [k: string]: string;
      };
      /**
       * @minItems 1
       * @maxItems 40
       */
      runs: {
        label: string;
        cells: number;
        history: {
          name: string;
          text: string;
        } | null;
        quantities: {
          name: string;
          text: string;
        } | null;
      }[];
    };
    output: string[];
  };
  /**
   * Adds a table of results to a brought-in run.
   */
  "POST /runs/{id}/add": {
    input: {
      quantities: {
        name: string;
        text: string;
      };
      /**
       * @maxItems 4000
       */
      rowRoles: string[];
      /**
       * @maxItems 4000
       */
      rowUnits?: (string | null)[];
      fluxes?: {
        signs: "outward" | "inward" | "by-name";
        factor: number;
      };
      replace?: boolean;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Follows a log while it grows.
   */
  "POST /cases/{id}/follow": {
    input: {
      label: string;
      code: string;
      cells: number;
      volume: string;
      build?: {
        version?: string;
        options?: string;
        compiler?: string;
        machine?: string;
      };
      dimension?: 2 | 3;
      /**
       * @maxItems 400
       */
      roles: string[];
      /**
       * @maxItems 400
       */
      units?: (string | null)[];
      recipe?: string;
      reading: string;
    };
    output: {
      id: string;
    };
  };
  /**
   * Ways of reading files that were kept.
   */
  "GET /recipes": {
    output: {
      id: string;
      name: string;
      [k: string]: unknown;
    }[];
  };
  /**
   * Forgets a way of reading files; that can be taken back.
   */
  "DELETE /recipes/{id}": {
    output: {
      ok: true;
    };
  };
  /**
   * Brings a forgotten way of reading files back.
   */
  "POST /recipes/{id}/restore": {
    output: {
      ok: true;
    };
  };
  /**
   * Issues a report: frozen, numbered, signed.
   */
  "POST /cases/{id}/reports": {
    input: {
      issuedBy: string;
      /**
       * @minItems 1
       * @maxItems 30
       */
      blocks?: string[];
      text?: string;
      captions?: {
        [k: string]: string;
      };
      /**
       * @maxItems 11
       */
      also?: string[];
    };
    output: {
      number: number;
    };
  };
  /**
   * How far the report of a case is that is being made; empty where none is.
   */
  "GET /cases/{id}/report-under-way": {
    output: {
      told?: {
        done: number;
        of: number;
        what: string;
      };
    };
  };
  /**
   * What a report would show if it were issued now: its chapters with the keys and titles of their figures and tables; nothing is frozen.
   */
  "POST /cases/{id}/report-outline": {
    input: {
      /**
       * @minItems 1
       * @maxItems 30
       */
      blocks?: string[];
      /**
       * @maxItems 11
       */
      also?: string[];
    };
    output: {
      title: string;
      figures: {
        key: string;
        title: string;
      }[];
      tables: {
        key: string;
        title: string;
      }[];
    }[];
  };
  /**
   * Gives up the report that is being made of a case; nothing of it is kept.
   */
  "DELETE /cases/{id}/report-under-way": {
    output: {
      ok: true;
    };
  };
  /**
   * A report as PDF.
   */
  "GET /cases/{id}/reports/{number}/pdf": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * A report with its tables, drawings and evidence.
   */
  "GET /cases/{id}/reports/{number}/zip": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * A report as data.
   */
  "GET /cases/{id}/reports/{number}/json": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * A report as one HTML file, which fetches nothing and runs no script.
   */
  "GET /cases/{id}/reports/{number}/html": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * A report as a text document for word processors (DOCX), with its tables as tables and its drawings as vectors.
   */
  "GET /cases/{id}/reports/{number}/docx": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Who signed a report, on a sheet of its own, with the sums of the files that were signed.
   */
  "GET /cases/{id}/reports/{number}/sign-off": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Detached Ed25519 signature of a report's evidence pack, in base64, made with the key of this data folder.
   */
  "GET /cases/{id}/reports/{number}/pack-signature": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * The half of this data folder's signing key that whoever checks a pack needs.
   */
  "GET /signing-key": {
    output: {
      [k: string]: unknown;
    };
  };
  /**
   * Puts a signature under an issued report: prepared, checked or approved.
   */
  "POST /cases/{id}/reports/{number}/signatures": {
    input: {
      role: "prepared" | "checked" | "approved";
      by: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * Says that an issued report no longer stands, and why; it stays as it was.
   */
  "POST /cases/{id}/reports/{number}/withdraw": {
    input: {
      by: string;
      reason: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * What differs between two issued reports of a case, line by line.
   */
  "GET /cases/{id}/reports/{number}/against/{later}": {
    output: {
      where: string;
      left?: string;
      right?: string;
    }[];
  };
  /**
   * Compositions of reports that were kept, by name.
   */
  "GET /report-templates": {
    output: {
      name: string;
      /**
       * @maxItems 30
       */
      blocks: string[];
      text: string;
    }[];
  };
  /**
   * Keeps a composition of a report under a name; without a chapter the name is forgotten.
   */
  "PUT /report-templates": {
    input: {
      name: string;
      /**
       * @maxItems 30
       */
      blocks: string[];
      text: string;
    };
    output: {
      ok: true;
    };
  };
  /**
   * JSON Schema of a report's data.
   */
  "GET /schema/report": {
    output: unknown;
  };
  /**
   * JSON Schema of a record as it can be brought in.
   */
  "GET /schema/record": {
    output: unknown;
  };
  /**
   * Checks an uploaded evidence pack: its files against its list, and every figure of its report against what its inputs give; stores nothing.
   */
  "POST /packs/check": {
    input: {
      hash: string;
    };
    output: {
      check: {
        title: string;
        number: number;
        issuedBy: string;
        issuedAt: string;
        manifest: string;
        files: number;
        compared: number;
        changed: string[];
        differences: {
          where: string;
          left?: string;
          right?: string;
        }[];
        otherFiles: string[];
        notChecked: string[];
        sameMethod: boolean;
        asPacked: boolean;
        holds: boolean;
        sentence: string;
      };
      cases: {
        id: string;
        title: string;
        here: "not here" | "here" | "deleted here";
      }[];
      programmes: {
        name: string;
        here: boolean;
      }[];
      notes: string[];
    };
  };
  /**
   * How far the check of a pack is; empty where none is under way.
   */
  "GET /packs/{hash}/under-way": {
    output: {
      told?: {
        done: number;
        of: number;
        what: string;
      };
    };
  };
  /**
   * Gives the check of a pack up.
   */
  "DELETE /packs/{hash}/under-way": {
    output: {
      ok: true;
    };
  };
  /**
   * Brings the cases of an evidence pack in, with their runs, their report and what was done to them.
   */
  "POST /packs": {
    input: {
      hash: string;
      as: "itself" | "copy";
    };
    output: {
      id: string;
    };
  };
}
