// Written by web/scripts/generate.mjs from api/openapi.yaml; do not edit.
import type { CircuitFile } from "./circuit.gen";

export interface paths {
    "/alive": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Whether the program answers */
        get: operations["alive"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/practices": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Wiring practices with their words, cables and usual boxes */
        get: operations["listPractices"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Jobs, the newest first */
        get: operations["listJobs"];
        put?: never;
        post: operations["createJob"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        get: operations["getJob"];
        put?: never;
        post?: never;
        delete: operations["deleteJob"];
        options?: never;
        head?: never;
        /** Another name, or put away among those that are over */
        patch: operations["changeJob"];
        trace?: never;
    };
    "/jobs/{job}/copy": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** A job like this one, with every circuit, its history and its photographs */
        post: operations["copyJob"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/restore": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take a job out of the bin */
        post: operations["restoreJob"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/restore": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Take a circuit out of the bin */
        post: operations["restoreCircuit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/bin": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** What was removed, the last first */
        get: operations["getBin"];
        put?: never;
        post?: never;
        /** Remove for good what lies in the bin */
        delete: operations["emptyBin"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/circuits": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["createCircuit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/import": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Read a circuit file into the job */
        post: operations["importCircuit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/archive": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        /** The whole job as one file, with history and photographs */
        get: operations["exportJob"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/import": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Read a job archive, or a circuit file, into a job of its own */
        post: operations["importJob"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/photos/{photo}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                photo: components["parameters"]["PhotoID"];
            };
            cookie?: never;
        };
        get: operations["getPhoto"];
        put?: never;
        post?: never;
        delete: operations["deletePhoto"];
        options?: never;
        head?: never;
        patch: operations["notePhoto"];
        trace?: never;
    };
    "/circuits/{circuit}/boxes/{box}/photos": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                box: string;
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Keep a photograph of a box; what it knows of place and time is taken off */
        post: operations["addPhoto"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/netlist": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** The circuit as recorded, for general circuit simulators */
        get: operations["getNetlist"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get: operations["getCircuit"];
        put?: never;
        post?: never;
        delete: operations["deleteCircuit"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/file": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** The circuit file */
        get: operations["getCircuitFile"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/edits": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["editCircuit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/undo": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["undo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/redo": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["redo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/history": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** Revisions, the last first */
        get: operations["getHistory"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/history/{revision}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                revision: components["schemas"]["Id"];
            };
            cookie?: never;
        };
        /** One revision as a drawing, to look at it */
        get: operations["getRevision"];
        put?: never;
        /** Make a revision the head again, as one revision more */
        post: operations["goBackTo"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/press": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Press a control, or look at a state */
        post: operations["press"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/plan": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get: operations["plan"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/options/{option}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                option: string;
            };
            cookie?: never;
        };
        /** One option of the plan, and what its boxes would hold */
        get: operations["showOption"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/wishes": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** What is wished, and what may be */
        get: operations["wishes"];
        /** Keep what is wished, in the stead of the version that was seen */
        put: operations["wish"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/devices": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The catalogue and your own device models */
        get: operations["devices"];
        put?: never;
        /** Keep a device model of your own, once it behaves on the bench */
        post: operations["addDevice"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/devices/try": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Put a device model on the bench, and keep nothing */
        post: operations["tryDevice"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/devices/file": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Your own device models as a file */
        get: operations["exportDevices"];
        put?: never;
        /** Read a file of device models; one whose id is taken by another is refused unless it shall replace it */
        post: operations["importDevices"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/devices/{device}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                device: string;
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        post?: never;
        delete: operations["deleteDevice"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/trace": {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
                /** @description A plan whose id this is: the next test is what that plan needs to know */
                toward?: components["parameters"]["TowardOption"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** What the walls may hide, and the next test */
        get: operations["trace"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/trace/preview": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What a test chosen by hand would tell */
        post: operations["previewTest"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/trace/ahead": {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** The breaker operations still to come, by the proposed tests and in the ways of the conventions; some seconds' work */
        get: operations["traceAhead"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/trace/followed": {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** How far the tree of tests is, while it is being followed */
        get: operations["traceFollowed"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/trace/tree": {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** Every reading of every next test, followed to the end */
        get: operations["traceTree"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/record": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make the traced circuit the circuit of record */
        post: operations["recordTraced"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/handover": {
        parameters: {
            query?: {
                currency?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** What the record says of this circuit */
        get: operations["handover"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/house": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** What of the record of a hidden house is right */
        get: operations["compareHouse"];
        put?: never;
        /** Hide this circuit behind walls, as a circuit of its own to practise on */
        post: operations["hideCircuit"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/ask": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Let the hidden house answer a test */
        post: operations["askHouse"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/choice": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        post: operations["choose"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/picture": {
        parameters: {
            query: {
                of: components["schemas"]["Version"];
                /** @description Draw this box alone, from the front */
                box?: string;
                /** @description Flag the ends that the plan joins differently */
                compare?: boolean;
                view?: components["schemas"]["View"];
                /** @description Draw this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** A drawing as data, for a page */
        get: operations["picture"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/usual": {
        parameters: {
            query?: {
                /** @description The open cable behind which the box stands; none where nobody can name it */
                cable?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** Usual boxes that may be added, each drawn as one stands before it */
        get: operations["usual"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/diagram": {
        parameters: {
            query: {
                of: components["schemas"]["Version"];
                /** @description Draw this box alone, from the front */
                box?: string;
                /** @description Flag the ends that the plan joins differently */
                compare?: boolean;
                view?: components["schemas"]["View"];
                /** @description Draw this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** A drawing as a file that stands alone: its type, a title block and the cautions within */
        get: operations["diagram"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/procedure": {
        parameters: {
            query?: {
                /** @description The way back after so many steps were done, in place of the steps */
                back?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** How the chosen plan is done, with what it takes */
        get: operations["procedure"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/work": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** How the fitting stands, by its log */
        get: operations["work"];
        put?: never;
        /** Begin a run of steps from the wiring as it stands */
        post: operations["beginWork"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/log": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Add an entry to the log */
        post: operations["addToLog"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/work/step/{step}": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                step: number;
            };
            cookie?: never;
        };
        /** The box of a step as it is and as the step leaves it */
        get: operations["stepPicture"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/proof": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** What shows that the work is right, with what was seen of it so far */
        get: operations["proof"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/diagnosis": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** Which single mistakes explain what was seen */
        get: operations["diagnosis"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/mistake": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** A box with a mistake in it, and as it should be */
        post: operations["mistakePicture"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/batteries": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** When batteries are due, as iCalendar */
        get: operations["batteries"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/readings": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** Every reading, of tracing and of proving, as comma-separated values */
        get: operations["readings"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/record": {
        parameters: {
            query?: {
                size?: "a4" | "letter";
                currency?: string;
                /** @description All that is known as well, for inspector, electrician and office */
                annex?: boolean;
            };
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        /** The record of a job for its customer, as PDF */
        get: operations["record"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/together": {
        parameters: {
            query?: {
                /** @description What the first plan has least of */
                by?: "price" | "time" | "families";
                /** @description What an hour of work costs */
                rate?: number;
            };
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        /** Plans for all circuits of a job, each with one option for each circuit that anything fits */
        get: operations["together"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/jobs/{job}/customer": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        /** For whom the job is done */
        get: operations["customer"];
        /** Say for whom the job is done */
        put: operations["putCustomer"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/firm": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** Who does the work */
        get: operations["firm"];
        /** Say who does the work */
        put: operations["putFirm"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/links": {
        parameters: {
            query?: {
                /** @description Of this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** The ways in which the links of a plan can be made, each tried out */
        get: operations["links"];
        /** Keep which way is taken for the chosen plan, with rules that were changed, in the stead of the version that was seen */
        put: operations["keepLinks"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/rehearsal": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What rules, mirrors and messages do in every order in which they may arrive */
        post: operations["rehearse"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/rehearsal/within": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What holds where messages take no less and no more than some delays */
        post: operations["rehearseWithin"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/rules/{form}": {
        parameters: {
            query: {
                of: components["schemas"]["Version"];
                /** @description Of this option of the plan in place of the chosen one */
                option?: string;
                /** @description A way to make its links in place of the preferred one */
                set?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                form: "json" | "csv" | "yaml";
            };
            cookie?: never;
        };
        /** The rules as a file, with devices, topics and what was found */
        get: operations["rules"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/rehearsal/move": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What one move makes of a moment */
        post: operations["rehearseMove"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/use": {
        parameters: {
            query?: {
                /** @description The year that is worked out; this one where none is named */
                year?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** How the light is used, and what a year of it takes */
        get: operations["use"];
        /** Keep how the light is used, in the stead of the version that was seen */
        put: operations["putUse"];
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/use/calendar": {
        parameters: {
            query?: {
                year?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** A year of the schedules as iCalendar */
        get: operations["useCalendar"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/upkeep": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What the cheapest options of each sort cost over years */
        post: operations["upkeep"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/ramp": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** What comes of a paddle that is held at one of two dimmers that follow each other */
        post: operations["ramp"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/hub": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        /** The stand-in hub that runs, if one does */
        get: operations["hub"];
        put?: never;
        /** Start a stand-in hub on this machine, in the place of one that runs */
        post: operations["startHub"];
        /** Stop it */
        delete: operations["stopHub"];
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/hub/press": {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        get?: never;
        put?: never;
        /** Make a gesture at a place, or cut a way */
        post: operations["pressAtHub"];
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/paper/{sheet}": {
        parameters: {
            query?: {
                /** @description The practice's own paper where nothing is said */
                size?: "a4" | "letter";
                /** @description What prices are in, as ISO 4217 has it; plain numbers where nothing is said */
                currency?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                sheet: "order" | "annex" | "drawings" | "planned" | "labels" | "found-labels" | "pocket";
            };
            cookie?: never;
        };
        /** The work order of the chosen plan, its annex, one sheet of it for the pocket, the drawings as found or as planned, or labels, planned or as found, as PDF */
        get: operations["paper"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
    "/circuits/{circuit}/materials": {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        /** What the chosen plan takes, as comma-separated values */
        get: operations["materials"];
        put?: never;
        post?: never;
        delete?: never;
        options?: never;
        head?: never;
        patch?: never;
        trace?: never;
    };
}
export type webhooks = Record<string, never>;
export interface components {
    schemas: {
        /** @description A UUID of version 7 */
        Id: string;
        Problem: {
            type: string;
            title: string;
            status: number;
            code: string;
            detail: string;
            place?: string;
            problems?: components["schemas"]["FileProblem"][];
            /** @description The head revision, or the version that stands, when a change was stale */
            head?: string;
            /** @description What was changed meanwhile */
            changed?: string[];
        };
        FileProblem: {
            code: string;
            place: string;
            line?: number;
            text: string;
        };
        /** @enum {string} */
        Version: "found" | "planned";
        Practice: {
            /**
             * @description The paper that its people use
             * @enum {string}
             */
            paper: "a4" | "letter";
            /** @description What a box holds is a sum of volumes; else depth decides */
            countsFill: boolean;
            /** @description Types of plain switch, the commonest first */
            switches: string[];
            /** @description Types of all that one finds in a box */
            parts: string[];
            /** @description Kinds of lamp */
            loads: string[];
            id: string;
            name: string;
            volts: number;
            hertz: number;
            words: {
                [key: string]: string;
            };
            cables: components["schemas"]["CablePreset"][];
            presets: components["schemas"]["BoxPreset"][];
            /** @description The practice changed its insulation colours once */
            eras: boolean;
            whoMay: string;
            caution: string;
        };
        Photo: {
            id: components["schemas"]["Id"];
            box: string;
            note: string;
            width: number;
            height: number;
            /** Format: date-time */
            created: string;
        };
        PhotoNote: {
            note: string;
        };
        CablePreset: {
            id: string;
            name: string;
            cores: string[];
            gauge?: string;
            neutral?: string;
            /** @enum {string} */
            era?: "new" | "old";
            /** @description No sheath: conductors drawn into a conduit one by one */
            singles?: boolean;
        };
        BoxPreset: {
            id: string;
            kind: string;
            title: string;
            /** @enum {string} */
            via?: "two" | "three";
        };
        UsualBox: {
            id: string;
            title: string;
            /** @description That come into it */
            cables: number;
            /** @description Insulated cores of the cable that has most */
            cores: number;
            /** @description The type of what stands in it, empty for nothing */
            device: string;
            picture: components["schemas"]["Picture"];
        };
        NewJob: {
            name: string;
        };
        JobChange: {
            name?: string;
            /** @description It is over and stands apart from those that are worked on */
            archived?: boolean;
        };
        Revision: {
            id: components["schemas"]["Id"];
            number: number;
            summary: string;
            /** @description Who, as they call themselves; empty where nobody said */
            by: string;
            /** Format: date-time */
            created: string;
            head: boolean;
            /** @description The option that was chosen then, or nothing */
            chosen: string;
        };
        Binned: {
            job: components["schemas"]["Id"];
            circuit?: components["schemas"]["Id"];
            name: string;
            /** @description For a circuit, what its job is called */
            of?: string;
            /** @description How many a job has */
            circuits: number;
            /** Format: date-time */
            removed: string;
            /**
             * Format: date-time
             * @description When it goes for good
             */
            until: string;
        };
        Job: {
            id: components["schemas"]["Id"];
            name: string;
            circuits: number;
            /** Format: date-time */
            created: string;
            archived: boolean;
        };
        ImportedJob: {
            job: components["schemas"]["Job"];
            /** @description What of the file could not be kept */
            lost: string[];
        };
        JobDetail: {
            id: components["schemas"]["Id"];
            name: string;
            /** Format: date-time */
            created: string;
            archived: boolean;
            circuits: components["schemas"]["CircuitSummary"][];
        };
        Together: {
            /** @description The best by each measure, the one that was asked for first, none twice */
            plans: components["schemas"]["JobPlan"][];
            left: components["schemas"]["LeftOut"][];
            breakers: components["schemas"]["SharedBreaker"][];
        };
        JobPlan: {
            /** @enum {string} */
            by: "price" | "time" | "families";
            /** @description Of the devices */
            price: number;
            minutes: number;
            /** @description The devices, and the minutes at the rate */
            cost: number;
            /** @description What the options rely on */
            readings: number;
            devices: number;
            /** @description In words */
            families: string[];
            /** @description Kinds of hub, each once; the catalogue has no price for them */
            hubs: string[];
            choices: components["schemas"]["JobChoice"][];
        };
        JobChoice: {
            circuit: components["schemas"]["Id"];
            name: string;
            option: string;
            title: string;
            price: number;
            minutes: number;
        };
        LeftOut: {
            circuit: components["schemas"]["Id"];
            name: string;
            /** @description Why nothing fits it */
            why: string;
        };
        SharedBreaker: {
            label: string;
            /** @description What they are called */
            circuits: string[];
        };
        CircuitSummary: {
            id: components["schemas"]["Id"];
            name: string;
            /**
             * @description What comes next
             * @enum {string}
             */
            stage: "survey" | "trace" | "choose" | "fit" | "prove" | "record";
            /** @description Of the fitting that is under way */
            steps: number;
            /** @description How many of those steps are done or left out */
            settled: number;
            practice: string;
            /** @enum {string} */
            verdict: "works" | "faulty" | "unknown" | "empty" | "unreadable";
            boxes: number;
            controls: number;
            chosen: boolean;
        };
        NewCircuit: {
            name: string;
            /** @enum {string} */
            practice: "na" | "uk" | "au" | "in" | "eu";
        };
        Circuit: {
            /** @description A hidden house answers its tests */
            house: boolean;
            photos: components["schemas"]["Photo"][];
            id: components["schemas"]["Id"];
            job: components["schemas"]["Id"];
            jobName: string;
            revision: components["schemas"]["Id"];
            /** @description Of the revision in the history */
            number: number;
            summary: string;
            canUndo: boolean;
            canRedo: boolean;
            document: components["schemas"]["Document"];
            reading: components["schemas"]["Reading"];
            choice?: components["schemas"]["Choice"];
        };
        /** @description A circuit file, format ambivia-circuit/1; its schema is core/circuit/schema.json */
        Document: CircuitFile;
        Reading: {
            understood: string[];
            next: string;
            ready: boolean;
            strip: components["schemas"]["Stop"][];
            report: components["schemas"]["Report"];
            /** @description Those of the report, like ones in one line */
            findings: components["schemas"]["Alike"][];
            terminals: {
                [key: string]: string[];
            };
            /** @description As people call them, by the id of their supply */
            breakers: {
                [key: string]: string;
            };
            /** @description Usual boxes by the open cable that they may stand behind */
            usual: {
                [key: string]: string[];
            };
            /** @description Recorded boxes that the next may be the same as */
            like: {
                [key: string]: string[];
            };
            cables: components["schemas"]["CablePreset"][];
            /** @description That a cable of the practice may be of, thinnest first */
            gauges: string[];
            names: components["schemas"]["Names"];
            suggestions: components["schemas"]["Suggestion"][];
        };
        /** @description What everything in the circuit is called */
        Names: {
            /** @description By id */
            boxes: {
                [key: string]: string;
            };
            /** @description By id */
            cables: {
                [key: string]: string;
            };
            /** @description By cable@box, as one says it in that box */
            to: {
                [key: string]: string;
            };
            /** @description By id */
            devices: {
                [key: string]: string;
            };
            /** @description By id, in as few words as tell it */
            short: {
                [key: string]: string;
            };
            /** @description By id, as one says it in front of the box */
            here: {
                [key: string]: string;
            };
            /** @description By device.screw, without the device */
            parts: {
                [key: string]: string;
            };
            /** @description By device.screw, in few words */
            screws: {
                [key: string]: string;
            };
            /** @description Cores by core@box and screws by device.screw */
            ends: {
                [key: string]: string;
            };
        };
        Alike: {
            /** @enum {string} */
            severity: "error" | "warning" | "note";
            text: string;
            /** @description Their places in the report */
            of: number[];
        };
        Suggestion: {
            box: string;
            text: string;
            edit: components["schemas"]["Edit"];
        };
        Stop: {
            box: string;
            label: string;
            kind: string;
            known: boolean;
            holds: string;
        };
        Report: {
            /** @enum {string} */
            verdict: "works" | "faulty" | "unknown";
            states: number;
            findings: components["schemas"]["Finding"][];
            controls: components["schemas"]["Control"][];
            roles: {
                [key: string]: string;
            };
        };
        Finding: {
            code: string;
            /** @enum {string} */
            severity: "error" | "warning" | "note";
            text: string;
            advice?: string;
            at: string[];
            state: {
                [key: string]: number;
            };
            /** @description A count that led to the finding, line by line */
            lines?: string[];
        };
        Control: {
            device: string;
            works: boolean;
            lamps?: string[];
        };
        EditRequest: {
            base: components["schemas"]["Id"];
            edit: components["schemas"]["Edit"];
        };
        Edit: components["schemas"]["SetCircuit"] | components["schemas"]["AddBox"] | components["schemas"]["SetBox"] | components["schemas"]["RemoveBox"] | components["schemas"]["AddCable"] | components["schemas"]["SetCable"] | components["schemas"]["JoinStubs"] | components["schemas"]["RemoveCable"] | components["schemas"]["AddDevice"] | components["schemas"]["SetDevice"] | components["schemas"]["RemoveDevice"] | components["schemas"]["Connect"] | components["schemas"]["Move"] | components["schemas"]["HangLoose"] | components["schemas"]["Disconnect"] | components["schemas"]["MarkEnd"] | components["schemas"]["Observe"] | components["schemas"]["Unobserve"] | components["schemas"]["AddReport"] | components["schemas"]["RemoveReport"] | components["schemas"]["PassGate"] | components["schemas"]["SetCannot"] | components["schemas"]["Accept"];
        SetCircuit: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "set-circuit";
            name?: string;
            practice?: string;
            /** @enum {string} */
            colours?: "new" | "old" | "mixed";
            volts?: number;
            breakerAmps?: number;
            breakerLabel?: string;
            /** @description In how many places the light is switched; 0 takes it back */
            controls?: number;
            /**
             * @description When a reading is asked that would show a false one
             * @enum {string}
             */
            confirm?: "always" | "free" | "never";
            /** @description What is not known any more */
            clear?: ("colours" | "breakerLabel")[];
        };
        AddBox: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "add-box";
            kind?: string;
            name?: string;
            preset?: string;
            /** @description The box that a new one is the same as */
            like?: string;
            cable?: string;
        };
        SetBox: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "set-box";
            box?: string;
            name?: string;
            opened?: boolean;
            gangs?: number;
            volumeCm3?: number;
            depthMm?: number;
            /** @enum {string} */
            material?: "metal" | "plastic";
            /** @description Whether cables are held by clamps inside */
            clamps?: boolean;
            /** @description What is not known any more */
            clear?: ("name" | "material" | "clamps")[];
        };
        RemoveBox: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "remove-box";
            box?: string;
        };
        AddCable: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "add-cable";
            box?: string;
            to?: string;
            cores?: string[];
            gauge?: string;
        };
        SetCable: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "set-cable";
            cable?: string;
            to?: string;
            /** @description "none" where it is not known */
            gauge?: string;
        };
        JoinStubs: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "join-stubs";
            cable?: string;
            other?: string;
        };
        RemoveCable: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "remove-cable";
            cable?: string;
        };
        AddDevice: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "add-device";
            box?: string;
            type?: string;
            name?: string;
            watts?: number;
            count?: number;
            load?: string;
        };
        SetDevice: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "set-device";
            device?: string;
            type?: string;
            name?: string;
            watts?: number;
            count?: number;
            load?: string;
            depthMm?: number;
            unmarked?: boolean;
            dimmable?: boolean;
            /** @description What is not known any more */
            clear?: ("name" | "load" | "dimmable")[];
        };
        RemoveDevice: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "remove-device";
            device?: string;
        };
        Connect: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "connect";
            box?: string;
            of?: string[];
        };
        Move: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "move";
            box?: string;
            /** @description The core that moves */
            of?: string;
            /** @description A core or a screw */
            to?: string;
        };
        HangLoose: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "loose";
            box?: string;
            of?: string[];
            not?: boolean;
        };
        Disconnect: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "disconnect";
            box?: string;
            of?: string[];
        };
        MarkEnd: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "mark";
            box?: string;
            of?: string[];
            as?: string;
        };
        Observe: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "observe";
            observation?: components["schemas"]["Observation"];
            /** @description The other readings of a round, in the order made */
            more?: components["schemas"]["Observation"][];
        };
        Unobserve: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "unobserve";
            /** @description The reading or report that is meant */
            index?: number;
        };
        AddReport: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "report";
            /** @enum {string} */
            says?: "works" | "does-nothing" | "sometimes" | "others-die" | "nothing-else" | "never-lights" | "breaker-trips";
            device?: string;
        };
        RemoveReport: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "remove-report";
            /** @description The reading or report that is meant */
            index?: number;
        };
        PassGate: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "gate";
            gates?: components["schemas"]["Gate"][];
        };
        SetCannot: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "cannot";
            /** @description Ways of testing that the person cannot use */
            ways?: ("lamp-out" | "ladder" | "second-person" | "live")[];
        };
        Accept: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            op: "accept";
            /** @description The conductor that is accepted */
            end?: string;
            as?: string;
            odds?: number;
        };
        /**
         * @description Every conductor, one line, or only what changes in full
         * @enum {string}
         */
        View: "wiring" | "line" | "difference";
        /** @description What boxes and cables of a drawing take: all but title, legend and margins */
        Area: {
            x: number;
            y: number;
            w: number;
            h: number;
        };
        Picture: {
            width: number;
            height: number;
            drawn: components["schemas"]["Area"];
            title: string;
            /** @description What lies below first */
            marks: components["schemas"]["Mark"][];
        };
        Mark: components["schemas"]["PathMark"] | components["schemas"]["RectMark"] | components["schemas"]["CircleMark"] | components["schemas"]["TextMark"] | components["schemas"]["GroupMark"];
        /**
         * @description What a mark is in the picture. State and rays have no ink; a page shows there what is live and lit.
         * @enum {string}
         */
        Part: "title" | "legend" | "room" | "sheath" | "wire" | "kept" | "casing" | "insulation" | "state" | "device" | "body" | "contact" | "screw" | "lamp" | "rays" | "flag" | "core";
        /** @description What of the circuit a mark stands for */
        Subject: {
            box?: string;
            device?: string;
            /** @description What is pressed there, in words */
            press?: string;
            lamp?: string;
            end?: string;
            conductor?: number;
            contact?: string;
            position?: number;
        };
        PathMark: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "path";
            part?: components["schemas"]["Part"];
            of?: components["schemas"]["Subject"];
            d: string;
            /** @description A tint of insulation as #rrggbb, or the name of another */
            fill?: string;
            stroke?: string;
            width?: number;
            dash?: number[];
            opacity?: number;
        };
        RectMark: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "rect";
            part?: components["schemas"]["Part"];
            of?: components["schemas"]["Subject"];
            x: number;
            y: number;
            w: number;
            h: number;
            round?: number;
            /** @description A tint of insulation as #rrggbb, or the name of another */
            fill?: string;
            stroke?: string;
            width?: number;
            dash?: number[];
            opacity?: number;
        };
        CircleMark: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "circle";
            part?: components["schemas"]["Part"];
            of?: components["schemas"]["Subject"];
            x: number;
            y: number;
            r: number;
            /** @description A tint of insulation as #rrggbb, or the name of another */
            fill?: string;
            stroke?: string;
            width?: number;
            dash?: number[];
            opacity?: number;
        };
        TextMark: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "text";
            part?: components["schemas"]["Part"];
            x: number;
            y: number;
            middle?: boolean;
            size: number;
            weight?: number;
            text: string;
        };
        GroupMark: {
            /**
             * @description discriminator enum property added by openapi-typescript
             * @enum {string}
             */
            kind: "group";
            part?: components["schemas"]["Part"];
            of?: components["schemas"]["Subject"];
            marks: components["schemas"]["Mark"][];
        };
        Observation: {
            /** @enum {string} */
            power: "on" | "off";
            lifted?: string[];
            tied?: string[][];
            flipped?: string[];
            lampsOut?: string[];
            /** @enum {string} */
            instrument: "non-contact" | "two-pole" | "multimeter" | "continuity" | "lamp";
            /** @description The lamp looked at */
            light?: string;
            at?: string[];
            reading?: components["schemas"]["ReadingValue"];
            time?: string;
        };
        /** @description A word, or volts */
        ReadingValue: string | number;
        HouseReading: {
            reading: components["schemas"]["ReadingValue"];
            words: string;
        };
        Gate: {
            /** @enum {string} */
            gate: "breaker-off" | "proved-dead" | "power-on" | "was-on";
            box?: string;
            after?: number;
            time?: string;
            by?: string;
        };
        /** @description The plan that leads the tests */
        TowardPlan: {
            option: string;
            title: string;
            /** @description The plan relies on nothing that was not seen or measured */
            enough: boolean;
            relies: components["schemas"]["Reliance"][];
            /** @description Why it does not fit the circuit that is the likeliest now */
            refused?: string;
        };
        TraceAnswer: {
            /** @description Circuits that fit what was recorded and read, as far as they were weighed */
            worlds: number;
            /** @description There are more than were weighed */
            more: boolean;
            toward?: components["schemas"]["TowardPlan"];
            safer?: components["schemas"]["Safer"];
            look?: components["schemas"]["Look"];
            /**
             * @description When a reading is asked that would show a false one
             * @enum {string}
             */
            confirm: "always" | "free" | "never";
            /** @description What to do to leave all as it was found; empty where nothing is moved */
            putBack: string[];
            done: boolean;
            conductors: components["schemas"]["Conductor"][];
            strip: components["schemas"]["Stop"][];
            cables: components["schemas"]["CableFact"][];
            likely: components["schemas"]["CableFact"][];
            next?: components["schemas"]["NextTest"];
            contradiction?: components["schemas"]["Contradiction"];
            open: components["schemas"]["OpenEnd"][];
            settle?: string;
            log: components["schemas"]["LogEntry"][];
            reports: string[];
            walks: number;
            on: boolean;
            /** @description What was neither seen nor measured */
            assumed: components["schemas"]["Assumption"][];
            findings: components["schemas"]["TraceWarning"][];
            /** @enum {string} */
            polarity: "usual" | "exchanged" | "unknown";
            openNext?: components["schemas"]["OpenNext"];
            ahead?: components["schemas"]["Operations"];
            /** @description Of conventions A, B and E those that settle it, with the breaker operations still to come */
            schools: {
                [key: string]: components["schemas"]["Operations"];
            };
            controls?: number;
            cannot: ("lamp-out" | "ladder" | "second-person" | "live")[];
        };
        TraceForecast: {
            ahead?: components["schemas"]["Operations"];
            /** @description Of conventions A */
            schools: {
                [key: string]: components["schemas"]["Operations"];
            };
        };
        Assumption: {
            text: string;
            at: string[];
        };
        TraceWarning: {
            code: string;
            text: string;
            at: string[];
        };
        OpenNext: {
            box: string;
            text: string;
        };
        Look: {
            text: string;
            next?: components["schemas"]["NextTest"];
        };
        Safer: {
            text: string;
            walks: number;
        };
        Operations: {
            worst: number;
            mean: number;
        };
        Conductor: {
            /** @description The role that the conductor may be accepted as without a reading */
            takeAs?: string;
            end: string;
            box: string;
            core: string;
            cable: string;
            /** @description Likeliest first */
            odds: components["schemas"]["RoleOdds"][];
        };
        RoleOdds: {
            role: string;
            odds: number;
        };
        CableFact: {
            stubs: string[];
            to?: string;
            odds: number;
        };
        RoundRow: {
            measure: string;
            answers: {
                reading: components["schemas"]["ReadingValue"];
                words: string;
            }[];
        };
        NextTest: {
            /** @description What it and its round take that a person may not have: lamp-out, ladder, second-person, live */
            needs: string[];
            /** @description The tests to take before anything is moved again, this one first */
            round: components["schemas"]["Observation"][];
            /** @description The same as a person reads and answers them */
            rows: components["schemas"]["RoundRow"][];
            /** @description It is asked only to show whether one of the readings was false */
            confirms: boolean;
            test: components["schemas"]["Observation"];
            why: string;
            outcomes: components["schemas"]["Outcome"][];
            text: string;
            measure: string;
            prepare: string[];
            live: boolean;
            instead?: string;
            /** @description What must be confirmed before */
            gates: components["schemas"]["GateNeed"][];
            /** @description What must be confirmed before, as it is asked on one card */
            asks: {
                title: string;
                lines: string[];
            }[];
            /** @description What was confirmed already and holds */
            passed: string[];
        };
        Outcome: {
            reading: components["schemas"]["ReadingValue"];
            words: string;
            worlds: number;
            odds: number;
            done: boolean;
            /** @description Of core ends that are open, the odds of each role as this reading would leave them, where they change much */
            narrows?: {
                [key: string]: {
                    [key: string]: number;
                };
            };
        };
        GateNeed: {
            /** @enum {string} */
            gate: "breaker-off" | "proved-dead" | "power-on";
            box?: string;
            text: string;
            confirm: string[];
            /** @description What is proved dead, one by one */
            conductors?: string[];
        };
        Contradiction: {
            text: string;
            readings: number[];
            reports: number[];
            /** @description Conductors taken for what nobody measured */
            accepted: number[];
            records: string[];
            recheck: string;
        };
        OpenEnd: {
            end: string;
            text: string;
            roles: {
                [key: string]: number;
            };
            settle: string;
        };
        LogEntry: {
            index: number;
            text: string;
            words: string;
            remark?: string;
            worlds: number;
            time?: string;
        };
        TestNode: {
            test?: components["schemas"]["Observation"];
            text: string;
            worlds: number;
            done: boolean;
            branches?: components["schemas"]["TestBranch"][];
            meanWalks: number;
            worstWalks: number;
            meanTests: number;
            worstTests: number;
            meanLive: number;
            cut?: boolean;
        };
        TestBranch: {
            words: string;
            odds: number;
            then: components["schemas"]["TestNode"];
        };
        Comparison: {
            ends: number;
            right: number;
            wrong: string[];
        };
        BaseRequest: {
            base: components["schemas"]["Id"];
        };
        ChoiceRequest: {
            base: components["schemas"]["Id"];
            /** @description The id of an option of the plan, or empty to take the choice back */
            option: string;
        };
        PressRequest: {
            of: components["schemas"]["Version"];
            state: {
                [key: string]: number;
            };
            press?: string;
            under?: components["schemas"]["Conditions"];
        };
        /** @description What a person has done to the circuit for a while, beside moving its switches */
        Conditions: {
            /** @description Ends: CABLE.CORE@BOX, or DEVICE.TERMINAL */
            lifted?: string[];
            lampsOut?: string[];
            breakersOff?: string[];
        };
        Live: {
            state: {
                [key: string]: number;
            };
            lamps: components["schemas"]["LampState"][];
            /** @description What each conductor does, by its number in the drawing */
            conductors: string[];
            asleep: string[];
            tripped: boolean;
            settled: boolean;
        };
        LampState: {
            device: string;
            /** @description How a person calls it */
            name: string;
            volts: number;
            lit: boolean;
        };
        PlanAnswer: {
            options: components["schemas"]["PlanOption"][];
            /** @description Those to look at first, each with what speaks for it */
            first?: components["schemas"]["Pick"][];
            conflicts?: components["schemas"]["Conflict"][];
            /** @description Stretches of cable that are too thin for some options, those that bar most first */
            narrow?: components["schemas"]["Narrow"][];
        };
        Pick: {
            option: string;
            reasons: string[];
        };
        Narrow: {
            /** @description Box at one end */
            a: string;
            /** @description Box at the other */
            b: string;
            cables: string[];
            /** @description Cores beside ground */
            has: number;
            text: string;
            bars: components["schemas"]["Bar"][];
        };
        Bar: {
            family: string;
            familyName: string;
            /** @description Cores beside ground, of the option that needs fewest */
            needs: number;
            /** @description There are enough cores, but of colours that may not */
            colours: boolean;
            /** @description How many of the family fail there */
            options: number;
            /** @description How many of the family fit all the same */
            fitting: number;
        };
        Conflict: {
            wishes: string[];
            text: string;
        };
        Wishes: {
            wishes?: {
                [key: string]: "must" | "nice";
            };
            colour?: string;
            radio?: string[];
            budget?: number;
            schools?: {
                [key: string]: string;
            };
            hoursPerDay?: number;
            energyPrice?: number;
            /** @description Conductors that shall carry what a person says */
            cores?: components["schemas"]["FixedCore"][];
        };
        FixedCore: {
            /** @description cable.core */
            core: string;
            role: string;
        };
        Procedure: {
            /** @description How the facts are known on which the plan is built */
            known: string;
            cards: components["schemas"]["Card"][];
            steps: components["schemas"]["Step"][];
            materials: components["schemas"]["Item"][];
            rooms: components["schemas"]["BoxRoom"][];
            labels: components["schemas"]["ConductorLabel"][];
        };
        /** @description One stay at one place between changes of the power */
        Card: {
            id: string;
            title: string;
            /** @description The box at which one stands; null for the whole circuit */
            box: string | null;
            /** @description Of its last line */
            phase: string;
            /** @description By number */
            steps: number[];
            /** @description Passed in it */
            gates: string[];
        };
        Step: {
            number: number;
            phase: string;
            kind: string;
            box?: string;
            /** @description What the box is called */
            where?: string;
            text: string;
            device?: string;
            test?: components["schemas"]["Observation"];
            right?: components["schemas"]["ReadingValue"];
            /** @description What follows where the test reads differently */
            otherwise?: string;
            /**
             * @description On which drawing it is seen best
             * @enum {string}
             */
            drawn: "found" | "planned";
            connector?: {
                conductors: number;
                gauge: string;
                /** @description The connectors that it takes */
                pieces: number[];
            };
            /** @description The ends that it is about */
            at?: string[];
            wires?: components["schemas"]["StepWire"][];
            /** @description What it does to the record */
            edits?: {
                [key: string]: unknown;
            }[];
            /**
             * @description What a gate makes true
             * @enum {string}
             */
            gate?: "permission" | "off" | "dead" | "caps" | "again";
            /** @description What a person confirms for it, one by one */
            asks?: string[];
            /** @description What is entered in a hub, a cloud or a panel of buttons, line by line */
            enter?: string[];
            /** @description Those that may turn out to be live */
            conductors?: string[];
            /** @description Hands go where conductors are bare */
            metal?: boolean;
            /** @description What readings of the record showed of its conductors */
            read?: string[];
            /** @description The presses that prove the work are made here, each once */
            proves?: boolean;
            /** @description What it fits */
            uses?: components["schemas"]["Item"][];
        };
        Work: {
            /** @description The presses of the proof are those of the last run's plan */
            proves: boolean;
            /** @description Of the log; whoever adds to it names it */
            last: number;
            /**
             * @description Of the last run; none where nothing was begun
             * @enum {string}
             */
            way?: "forth" | "back" | "mend";
            title?: string;
            option?: string;
            cards: components["schemas"]["Card"][];
            phases: components["schemas"]["Named"][];
            steps: components["schemas"]["Step"][];
            states: components["schemas"]["StepState"][];
            /** @description The log */
            entries: components["schemas"]["LogLine"][];
            /** @description What was done before and does not go with the record as it is now */
            conflicts: string[];
            /** @description The step to be done next, 0 where none may */
            now: number;
            /** @description The entry that may be taken back, 0 where none may */
            undo: number;
            /**
             * @description on where a breaker may be on
             * @enum {string}
             */
            power: "on" | "off";
            /** Format: date-time */
            since?: string;
            /** @description Boxes proved dead since */
            proved: string[];
            /** @description What must be confirmed before any step with bare metal, where the log knows of something live */
            secure?: string[];
            /** @description What is not as drawn */
            stopped?: string;
            over: boolean;
            times: components["schemas"]["PhaseTime"][];
            mayBegin: boolean;
            mayGoBack: boolean;
            /** @description The record was changed since the run began */
            changed: boolean;
        };
        LogLine: {
            number: number;
            /** Format: date-time */
            time: string;
            by: string;
            kind: string;
            words: string;
            note?: string;
            value?: string;
            /** @description It was taken back */
            undone?: boolean;
        };
        StepState: {
            number: number;
            /** @enum {string} */
            status: "locked" | "open" | "done" | "skipped" | "differs";
            /** @description What a locked one waits for */
            why?: string;
            /** @description Why an open one cannot be done, only left out */
            barred?: string;
            /** @description That settled it */
            entry?: number;
            /** @description Open steps that may be ticked with it in one go */
            alike?: number[];
            /** @description The steps from the next one to the end of its stay at one place, which may be ticked in one go */
            stay?: number[];
        };
        PhaseTime: {
            phase: string;
            /** @description Minutes */
            took: number;
            /** @description Minutes */
            thought: number;
        };
        WorkBegin: {
            base: number;
            /** @enum {string} */
            way: "forth" | "back" | "mend";
            mistake?: components["schemas"]["Mistake"];
        };
        LogRequest: {
            base: number;
            entry: components["schemas"]["WorkEntry"];
        };
        WorkEntry: {
            number?: number;
            /** Format: date-time */
            time?: string;
            by?: string;
            /** @enum {string} */
            kind: "begin" | "done" | "skip" | "differs" | "undo" | "live" | "secure" | "note" | "press" | "reading" | "trial" | "device" | "fault" | "end";
            steps?: number[];
            asked?: string[];
            reason?: string;
            note?: string;
            value?: string;
            photo?: string;
            end?: string;
            of?: number;
            press?: string;
            lamps?: {
                [key: string]: string;
            };
            test?: components["schemas"]["Observation"];
            place?: string;
            path?: string;
            from?: string;
            field?: string;
            seconds?: number;
            works?: boolean;
        };
        StepPictures: {
            /**
             * @description The moment; now where the step may be done, before where it is settled, ahead where others come first
             * @enum {string}
             */
            when: "now" | "before" | "ahead";
            /** @description Left out where the box is not there yet */
            before?: components["schemas"]["Picture"];
            /** @description Left out where it is the same */
            after?: components["schemas"]["Picture"];
        };
        WrongAndRight: {
            wrong: components["schemas"]["Picture"];
            right: components["schemas"]["Picture"];
        };
        Mistake: {
            /** @enum {string} */
            kind: "loose" | "swap" | "misplaced";
            ends: string[];
        };
        Diagnosis: {
            right: boolean;
            mistakes: {
                /** @enum {string} */
                kind: "loose" | "swap" | "misplaced";
                ends: string[];
                box: string;
                text: string;
                odds: number;
            }[];
            next?: {
                press?: string;
                box?: string;
                test?: components["schemas"]["Observation"];
                right?: components["schemas"]["ReadingValue"];
                text: string;
                /** @description What is confirmed before the reading is taken */
                asks?: string[];
            } | null;
            text: string;
            boxes: string[];
        };
        ProvePress: {
            press: string;
            box: string;
            where: string;
            name: string;
            expect: components["schemas"]["LampExpected"][];
        };
        MeterTest: {
            text: string;
            test: components["schemas"]["Observation"];
            /** @description What is confirmed before it is taken; empty where all of it still holds */
            asks: string[];
            /** @description In words */
            right: string;
            /** @description That it shows */
            mistakes: number;
            /** @description Of the log, that says what it showed */
            entry?: number;
            value?: string;
        };
        Proof: {
            /** @description Of the log */
            last: number;
            /** @description The chosen plan is proved; else the circuit as recorded */
            planned: boolean;
            /**
             * @description By the log: off where every breaker was confirmed to be off
             * @enum {string}
             */
            power: "on" | "off";
            presses: components["schemas"]["ProvePress"][];
            mistakes: {
                all: number;
                revealed: number;
                sameAsRight: number;
                meter: number;
            };
            meter: components["schemas"]["MeterTest"][];
            lamps: components["schemas"]["Named"][];
            /** @description The presses of this time through */
            seen: components["schemas"]["WorkEntry"][];
            /** @description Presses that were seen, -1 where the start was not looked at */
            at: number;
            /** @description What was seen so far is what right work shows */
            right: boolean;
            /** @description Switch the light off and look again before the next press: a device kept its state */
            switchOff: boolean;
            /** @description How the lamps look after the next press where the work is right; left out where nobody can tell */
            shows?: {
                [key: string]: string;
            };
            /** @description How a single lamp looks where it is not */
            otherwise?: {
                [key: string]: string;
            };
            trials: components["schemas"]["Trial"][];
            devices: components["schemas"]["DeviceFacts"][];
            troubles: components["schemas"]["Trouble"][];
        };
        LampExpected: {
            lamp: string;
            name: string;
            /** @description changes, stays, or depends */
            does: string;
        };
        Trial: {
            place: string;
            where: string;
            path: string;
            from: string;
            expect: string;
            entry?: number;
        };
        DeviceFacts: {
            device: string;
            name: string;
            where: string;
            facts: {
                id: string;
                label: string;
                hint?: string;
                /** @description A day, year-month-day */
                date?: boolean;
                value?: string;
                entry?: number;
            }[];
        };
        HandoverAnswer: {
            handover: components["schemas"]["Handover"];
            /** @description All that the record says, and how it knows it */
            claims: components["schemas"]["Claim"][];
        };
        Handover: {
            /** @description What the circuit is now */
            is: string;
            status: string;
            /** @description Whether anything was fitted */
            begun: boolean;
            /** @description What is not right, and what was left out */
            wrong: string[];
            inPart?: string;
            use: components["schemas"]["Told"][];
            /** @description What still works when something fails */
            fails: string[];
            links: string[];
            batteries: string[];
            schedules: string[];
            devices: components["schemas"]["Told"][];
            /** @description What was not tested, as counts */
            open: string[];
            untested: string[];
            /** @description Where the way back to the old wiring lies */
            back: string;
        };
        Told: {
            name: string;
            text: string;
        };
        Claim: {
            circuit: string;
            /** @enum {string} */
            kind: "measured" | "pressed" | "confirmed" | "done" | "assumed" | "not-tested" | "promised";
            /** @description The same for the same fact */
            what: string;
            /** @description The line of the log that says so */
            entry: number | null;
            text: string;
        };
        Trouble: {
            id: string;
            text: string;
            do: string[];
        };
        Customer: {
            name?: string;
            address?: string;
            phone?: string;
            notes?: string;
        };
        KeptCustomer: {
            /** @description What was read; "" keeps over anything */
            version: string;
            customer: components["schemas"]["Customer"];
        };
        KeptFirm: {
            version: string;
            firm: {
                name?: string;
                licence?: string;
                address?: string;
                phone?: string;
                /**
                 * Format: byte
                 * @description A JPEG file
                 */
                picture?: string;
            };
        };
        Use: {
            zone: string;
            latitude: number;
            longitude: number;
            todayHours: number;
            schedules: {
                name: string;
                days: ("mon" | "tue" | "wed" | "thu" | "fri" | "sat" | "sun")[];
                /** @description HH:MM, sunrise or sunset */
                at: string;
                /** @description Minutes after sunrise or sunset */
                offset?: number;
                on: boolean;
                /** @description In percent */
                level?: number;
            }[];
            away?: {
                from: string;
                to: string;
                seed: number;
            };
            inputs: {
                name: string;
                /** @enum {string} */
                kind: "smoke" | "alarm";
                level?: number;
                lights: string[];
            }[];
            home: components["schemas"]["UseHours"][];
            load: {
                watts: number;
                table: {
                    level: number;
                    watts: number;
                }[];
                standby: number;
                /** @description The highest level that is used, in percent; 0 for all */
                most?: number;
                /** @description The lowest level at which the lamps hold steady, in percent; 0 where nobody tried */
                least?: number;
            };
            tariff: {
                price: number;
                bands: {
                    from: string;
                    to: string;
                    price: number;
                }[];
            };
        };
        UseHours: {
            from: string;
            to: string;
        };
        UseRequest: {
            /** @description The version that was seen, empty where there is none yet */
            base: string;
            use: components["schemas"]["Use"];
        };
        UseAnswer: {
            version: string;
            use: components["schemas"]["Use"];
            /** @description What the lights of the job are called, for groups */
            lights: string[];
            /** @description Detectors and alarms that were entered with other lights of the job and turn this one on too */
            reaching: string[];
            year: components["schemas"]["UseYear"];
            /** @description The levels that were noted when the plan was tried, in percent; 0 where nobody did */
            tried?: {
                lowest: number;
                highest: number;
            };
        };
        Amount: {
            kWh: number;
            cost: number;
        };
        UseYear: {
            year: number;
            hours: number;
            kWh: number;
            cost: number;
            months: {
                month: number;
                hours: number;
                kWh: number;
                cost: number;
            }[];
            standby: components["schemas"]["Amount"];
            today: components["schemas"]["Amount"];
            saved: components["schemas"]["Amount"];
            uncapped: components["schemas"]["Amount"];
            savedByCap: components["schemas"]["Amount"];
            conflicts: {
                /** @enum {string} */
                kind: "contrary" | "person" | "never" | "below";
                text: string;
                first: string;
                days: number;
            }[];
        };
        UpkeepAssumptions: {
            years: number;
            energy: number;
            battery: number;
            hour: number;
            lampYears: number;
            lamp: number;
            lamps: number;
            catalogueFor: number;
            /** @description What prices are in, as ISO 4217 has it */
            currency?: string;
        };
        UpkeepRequest: {
            /** @description What prices are in, where no assumptions are sent */
            currency?: string;
            assumptions?: components["schemas"]["UpkeepAssumptions"];
        };
        UpkeepAnswer: {
            assumptions: components["schemas"]["UpkeepAssumptions"];
            says: string[];
            lines: {
                /** @description What people call the sort */
                name: string;
                option: string;
                title: string;
                /** @enum {string} */
                sort: "single" | "kit" | "lamps";
                costs: number[];
                parts: {
                    what: string;
                    cost: number;
                }[];
            }[];
        };
        HubRequest: {
            circuit: components["schemas"]["Id"];
            what: components["schemas"]["RehearsalOf"];
            /** @description Where its broker listens, on this machine alone; a free one where nothing is said */
            address?: string;
        };
        HubPress: {
            device?: string;
            gesture?: string;
            /** @description The way or device that is cut, empty to make all whole */
            cut?: string;
            /**
             * Format: date-time
             * @description To what its clock is put; what the schedules do until then is done
             */
            time?: string;
            /** @description An input that goes off, or is reset */
            input?: {
                number: number;
                on: boolean;
            };
        };
        HubAnswer: {
            runs: boolean;
            circuit?: string;
            topics?: {
                topic: string;
                payload: string;
                who: string;
            }[];
            live?: {
                /** @description What its clock says */
                time?: string;
                /** @description What is due next */
                next?: {
                    at: string;
                    on: boolean;
                    level?: number;
                    by: string;
                };
                alarms: {
                    number: number;
                    name: string;
                    raised: boolean;
                }[];
                address: string;
                down: string;
                shown: components["schemas"]["RehearsalShown"];
                lines: {
                    time: string;
                    topic: string;
                    text: string;
                }[];
            };
        };
        Dimmer: {
            ramp: number;
            least: number;
            every: number;
            echo: boolean;
        };
        /** @description Times in seconds, levels in percent */
        Held: {
            first: components["schemas"]["Dimmer"];
            second: components["schemas"]["Dimmer"];
            both: boolean;
            for: number;
            from: number;
            quickest: number;
            slowest: number;
        };
        Ramped: {
            settles: boolean;
            seconds: number;
            turns: number;
            apart: number;
            latest: number;
            text: string;
            points: {
                seconds: number;
                first: number;
                second: number;
            }[];
        };
        LinkSet: {
            /** @enum {string} */
            kind: "direct" | "scenes" | "in-step" | "mirror-one" | "mirror-two";
            title: string;
            text: string;
            via: string;
            settings: {
                device: string;
                text: string;
            }[];
            rules: number;
            mirrors: number;
            /** @description How many sets of rules were tried until this one */
            tried?: number;
            preferred?: boolean;
            report: components["schemas"]["RehearsalReport"];
        };
        RehearsalProperty: {
            code: string;
            holds: boolean;
            witness: components["schemas"]["RehearsalGesture"][];
            text: string;
        };
        RehearsalReport: {
            /** @enum {string} */
            verdict: "sound" | "flawed";
            states: number;
            /** @description There was more to go through than was gone through */
            cutOff?: boolean;
            properties: components["schemas"]["RehearsalProperty"][];
            /** @description How many messages pass one after the other at a place until the light obeys */
            latencies: {
                device: string;
                least: number;
                most: number;
            }[];
            /** @description How many messages pass at most after one gesture until nothing is under way; left out where they may breed without end */
            patience?: number;
            /** @description Asked besides, of messages that go astray */
            beyond: components["schemas"]["RehearsalProperty"][];
            outages: {
                down: string;
                works: {
                    [key: string]: boolean;
                };
            }[];
        };
        Automation: {
            rules?: {
                id: string;
                when: {
                    device: string;
                    event: string;
                };
                then: {
                    device: string;
                    action: string;
                    level?: number;
                };
                via: string;
            }[];
            mirrors?: {
                from: string;
                to: string;
                both?: boolean;
                via: string;
            }[];
        };
        LinksRequest: {
            /** @description The version that was seen, empty where there is none yet */
            base: string;
            /** @description Empty for the preferred one */
            set: string;
            automation?: components["schemas"]["Automation"];
        };
        RehearsalOf: {
            of: components["schemas"]["Version"];
            /** @description An option of the plan in place of the chosen one */
            option?: string;
            /** @description A way to make its links in place of the preferred one */
            set?: string;
            automation?: components["schemas"]["Automation"];
        };
        Delays: {
            /** @description Seconds that a message takes, by way */
            ways: {
                [key: string]: {
                    quickest: number;
                    slowest: number;
                };
            };
            /** @description Seconds after which a hand makes the next gesture at the soonest */
            pause: number;
        };
        Timed: {
            /** @description Seconds from a gesture at a place until the light obeys */
            waits: {
                device: string;
                quickest: number;
                slowest: number;
            }[];
            /** @description After how many seconds nothing is under way at the latest; left out where messages may breed without end */
            quiet?: number;
            /** @enum {string} */
            verdict: "sound" | "flawed";
            properties: components["schemas"]["RehearsalProperty"][];
            /** @description There was more to go through than was gone through */
            cutOff?: boolean;
        };
        Rehearsal: {
            /** @description The version of what is kept of the links of the chosen plan, empty where nothing is */
            kept: string;
            /** @description Its kind */
            set?: string;
            /** @description Which way to make the links it is, empty where the circuit has its own */
            title: string;
            report: components["schemas"]["RehearsalReport"];
            delays: components["schemas"]["Delays"];
            /** @description Seconds that one message takes, by trials of the plan that were noted */
            measured?: {
                quickest: number;
                slowest: number;
                trials: number;
            };
            automation: components["schemas"]["Automation"];
            speakers: {
                device: string;
                name: string;
                /** @description It can be told something */
                listener: boolean;
                /** @description It can be told a level */
                dims?: boolean;
                events: {
                    gesture: string;
                    text: string;
                }[];
            }[];
            /** @description Ways that messages go */
            ways: string[];
            /** @description Links, rules and mirrors in plain words, a line for each */
            said: {
                links: string[];
                rules: string[];
                mirrors: string[];
            };
            start: components["schemas"]["RehearsalShown"];
            /** @description By the code of what does not hold: the way there, played */
            witnesses: {
                [key: string]: components["schemas"]["RehearsalPlayed"][];
            };
        };
        RehearsalPlayed: {
            text: string;
            /** @description At which it was a gesture */
            device?: string;
            shown: components["schemas"]["RehearsalShown"];
        };
        RehearsalGesture: {
            device: string;
            gesture: string;
        };
        RehearsalMove: {
            what: components["schemas"]["RehearsalOf"];
            /** @description A way whose messages vanish, or a device that says and hears nothing */
            down?: string;
            moment: components["schemas"]["RehearsalMoment"];
            /** @description What happens; where it is left out, all that is under way is delivered */
            move?: {
                device?: string;
                gesture?: string;
                /** @description The way whose first message arrives */
                deliver?: string;
                /**
                 * @description What befalls that message instead
                 * @enum {string}
                 */
                fate?: "lost" | "twice";
            };
        };
        RehearsalMoment: {
            state: {
                [key: string]: number;
            };
            /** @description The level last asked of a device, in percent */
            levels?: {
                [key: string]: number;
            };
            queues: {
                via: string;
                messages: {
                    to: string;
                    action: string;
                    /** @description In percent */
                    level?: number;
                }[];
            }[];
        };
        RehearsalShown: {
            moment: components["schemas"]["RehearsalMoment"];
            lit: boolean;
            /** @description Each light by itself, where there are several */
            lights?: {
                name: string;
                lit: boolean;
            }[];
            quiet: boolean;
            places: {
                device: string;
                name: string;
                /** @description on, off, or empty where it has none */
                switch: string;
                awake: boolean;
                /** @description It reports, and says otherwise than the lamp */
                astray: boolean;
                /** @description In percent, that was last asked of it */
                level?: number;
                gestures: {
                    gesture: string;
                    text: string;
                }[];
            }[];
        };
        StepWire: {
            end: string;
            colour: string;
            letters: string;
            cable: string;
            towards: string;
            screw: string;
            role: string;
            mark?: string;
            stripMm?: number;
        };
        Item: {
            group: string;
            what: string;
            count: number;
            note?: string;
            price?: number;
        };
        BoxRoom: {
            box: string;
            where: string;
            /** @description fits, too tight, or not known */
            verdict: string;
            note?: string;
            lines: {
                what: string;
                before: string;
                after: string;
            }[];
        };
        ConductorLabel: {
            end: string;
            role: string;
            letters: string;
            cable: string;
            towards: string;
            box: string;
            circuit: string;
            was?: string;
        };
        WishRequest: {
            /** @description The version that was seen, empty where nothing was wished yet */
            base: string;
            wishes: components["schemas"]["Wishes"];
        };
        WishesAnswer: {
            version: string;
            radios: components["schemas"]["Named"][];
            /** @description In which faces come */
            colours: string[];
            wishes: components["schemas"]["Wishes"];
            known: components["schemas"]["WishWord"][];
            /** @description What a core can be fixed for */
            fixable: string[];
            schools: components["schemas"]["Convention"][];
        };
        Named: {
            id: string;
            text: string;
        };
        WishWord: {
            id: string;
            text: string;
        };
        Convention: {
            id: string;
            asks: string;
            default: string;
            why: string;
            choices: components["schemas"]["ConventionChoice"][];
        };
        /** @description What an option amounts to; what may be lacking is not known, or does not apply */
        Metrics: {
            boxesTouched: number;
            endsMoved: number;
            remarked: number;
            capped: number;
            devices: number;
            batteries: number;
            switchesKept: number;
            placesLost: number;
            walks: number;
            ladders: number;
            price: number;
            minutes: number;
            standbyWatts: number;
            standbyYear: number;
            bypasses?: number;
            newCables?: number;
            connectors?: number;
            pigtails?: number;
            standbyCostYear?: number;
            lampsYear?: number;
            lampsCostYear?: number;
            savedAgainstKit?: number;
            lampsInstead?: number;
        };
        ConventionChoice: {
            id: string;
            text: string;
            consequence: string;
        };
        DevicesAnswer: {
            devices: components["schemas"]["LibraryDevice"][];
            /** @description In the order in which the catalogue is read */
            kinds: components["schemas"]["Named"][];
        };
        LibraryDevice: {
            own: boolean;
            /** @description Of one of your own */
            version?: string;
            /** @description What it does, in the words of the practice */
            text: string;
            device: components["schemas"]["Device"];
        };
        /** @description A device model. One that does not behave is refused, with the place */
        DeviceModel: components["schemas"]["Device"];
        BenchAnswer: {
            behaves: boolean;
            /** @description What the bench says, with the place in the model */
            text: string;
        };
        Device: {
            id: string;
            name: string;
            kind: string;
            about: string;
            stands: {
                [key: string]: string;
            };
            end?: string;
            mount?: string[];
            dims?: boolean;
            dimsFromCompanions?: boolean;
            scenes?: boolean;
            /** @description It tells its hub that it is held */
            held?: boolean;
            upIsOn?: boolean;
            throughLoad?: boolean;
            companions?: string[];
            link?: string;
            /** @description Up to how many come in one case */
            gangs?: number;
            /** @description What each gang after the first adds to the price */
            gangPrice?: number;
            surface?: boolean;
            lowVoltage?: boolean;
            perLamp?: boolean;
            batteryMonths?: number;
            selector?: {
                name: string;
                settings: string[];
            }[];
            setTo?: string[];
            limits?: {
                [key: string]: number;
            };
            finsOff?: {
                [key: string]: {
                    [key: string]: number;
                };
            };
            minimumWatts?: number;
            bypass?: boolean;
            depthMm: number;
            volumeCm3: number;
            stripMm: number;
            standbyWatts: number;
            radio: string[];
            hub: string;
            local: boolean;
            price: number;
            colours?: string[];
            screws?: {
                [key: string]: string;
            };
            /** @description The practice whose colours those are */
            screwsOf?: string;
            model: {
                [key: string]: unknown;
            };
        };
        PlanOption: {
            id: string;
            strategy: string;
            family: string;
            /** @description The family in a word or two */
            familyName: string;
            /** @description The lamps that it is for */
            light: string[];
            title: string;
            about: string;
            feasible: boolean;
            score?: number;
            changes?: components["schemas"]["Change"][];
            boxesTouched?: string[];
            /** @description Boxes at a lamp in which a bypass is fitted */
            bypassAt?: string[];
            checks?: components["schemas"]["Check"][];
            metrics?: components["schemas"]["Metrics"];
            reasons?: components["schemas"]["Reason"][];
            kit?: string;
            devices?: components["schemas"]["Fitted"][];
            alternatives?: components["schemas"]["Alternative"][];
            places?: components["schemas"]["Place"][];
            outages?: components["schemas"]["Outage"][];
            conductors?: components["schemas"]["CoreReason"][];
            pros?: string[];
            cons?: string[];
            wishes?: components["schemas"]["Wished"][];
            /** @description Facts that the plan needs and that are only assumed, each with the test that shows it */
            relies: components["schemas"]["Reliance"][];
        };
        Reliance: {
            text: string;
            /** @description The test as one does it */
            say: string;
            at: string[];
            test: components["schemas"]["Observation"];
            right: components["schemas"]["ReadingValue"];
            otherwise: {
                text: string;
                /** @description A plan that is right then too */
                option: string | null;
            };
        };
        OptionView: {
            option: components["schemas"]["PlanOption"];
            strip: components["schemas"]["Stop"][];
        };
        Fitted: {
            id: string;
            box: string;
            device: string;
            name: string;
            /** @description Pieces to buy: a smart lamp for each lamp of its entry */
            count: number;
            setTo?: string[];
            /** @description The device in whose case it is a further gang */
            case?: string;
        };
        Alternative: {
            kit: string;
            devices: string[];
            text: string;
        };
        Place: {
            box: string;
            /** @description What the box is called */
            where: string;
            device: string;
            name: string;
            kept: boolean;
            dims: boolean;
            scenes: boolean;
            upIsOn: boolean;
            battery: boolean;
        };
        Outage: {
            when: string;
            /** @description What fails, as the head of a column */
            name: string;
            text: string;
            /** @description Of something beside the wires that other options do without */
            avoidable?: boolean;
            works: string[];
            lost: string[];
        };
        CoreReason: {
            core: string;
            role: string;
            text: string;
        };
        Wished: {
            wish: string;
            how: string;
            met: boolean;
            text: string;
        };
        Change: {
            box: string;
            end: string;
            was: string;
            now: string;
            mark: string;
            text: string;
        };
        Check: {
            code: string;
            passed: boolean;
            /** @description The record lacks what it takes to tell */
            unknown?: boolean;
            /** @description It does not hold, but neither did it before */
            asFound?: boolean;
            text: string;
        };
        Reason: {
            code: string;
            text: string;
            at: string[];
        };
        Choice: {
            names: components["schemas"]["Names"];
            option: components["schemas"]["PlanOption"];
            document: components["schemas"]["Document"];
            changes: components["schemas"]["Change"][];
            verdict: string;
            controls: components["schemas"]["Control"][];
        };
    };
    responses: {
        /** @description What is wrong, and where */
        Problem: {
            headers: {
                [name: string]: unknown;
            };
            content: {
                "application/problem+json": components["schemas"]["Problem"];
            };
        };
    };
    parameters: {
        JobID: components["schemas"]["Id"];
        CircuitID: components["schemas"]["Id"];
        /** @description A plan whose id this is: the next test is what that plan needs to know */
        TowardOption: string;
        /** @description Dead tests first, or fewest walks */
        Prefer: "dead" | "trips";
        /** @description How many at most; all of them where nothing is said */
        Limit: number;
        /** @description The version that was seen, of a device that is changed or removed */
        DeviceBase: string;
        PhotoID: components["schemas"]["Id"];
    };
    requestBodies: never;
    headers: never;
    pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
    alive: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description It does */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    listPractices: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description All practices */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Practice"][];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    listJobs: {
        parameters: {
            query?: {
                /** @description How many at most; all of them where nothing is said */
                limit?: components["parameters"]["Limit"];
                /** @description The last job of the page before */
                before?: components["schemas"]["Id"];
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description A page of them */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Job"][];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    createJob: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewJob"];
            };
        };
        responses: {
            /** @description The job */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Job"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getJob: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The job with its circuits */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["JobDetail"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    deleteJob: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description In the bin */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    changeJob: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["JobChange"];
            };
        };
        responses: {
            /** @description The job */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Job"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    copyJob: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The new job */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ImportedJob"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    restoreJob: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The job */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Job"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    restoreCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getBin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Jobs and circuits */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Binned"][];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    emptyBin: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Gone */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    createCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["NewCircuit"];
            };
        };
        responses: {
            /** @description The circuit */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    importCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": Blob;
            };
        };
        responses: {
            /** @description The circuit */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    exportJob: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The archive */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "application/zip": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    importJob: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": Blob;
            };
        };
        responses: {
            /** @description The job */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["ImportedJob"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getPhoto: {
        parameters: {
            query?: {
                /** @description No side longer than 400 pixels, to stand among others */
                small?: boolean;
            };
            header?: never;
            path: {
                photo: components["parameters"]["PhotoID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The picture */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/jpeg": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    deletePhoto: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                photo: components["parameters"]["PhotoID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Gone */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    notePhoto: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                photo: components["parameters"]["PhotoID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PhotoNote"];
            };
        };
        responses: {
            /** @description The photograph */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Photo"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    addPhoto: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                box: string;
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": Blob;
            };
        };
        responses: {
            /** @description The photograph */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Photo"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getNetlist: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The netlist */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "text/plain": string;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The circuit at its head */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    deleteCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Gone */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    getCircuitFile: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The file */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    editCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["EditRequest"];
            };
        };
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    undo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BaseRequest"];
            };
        };
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    redo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BaseRequest"];
            };
        };
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getHistory: {
        parameters: {
            query?: {
                /** @description How many at most; all of them where nothing is said */
                limit?: components["parameters"]["Limit"];
                /** @description The number of the last revision of the page before */
                before?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description A page of them */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Revision"][];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    getRevision: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                revision: components["schemas"]["Id"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The drawing */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Picture"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    goBackTo: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                revision: components["schemas"]["Id"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BaseRequest"];
            };
        };
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    press: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["PressRequest"];
            };
        };
        responses: {
            /** @description What every conductor does then */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Live"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    plan: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description All options */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["PlanAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    showOption: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                option: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The option */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["OptionView"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    wishes: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The wishes */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WishesAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    wish: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WishRequest"];
            };
        };
        responses: {
            /** @description The wishes as kept */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WishesAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    devices: {
        parameters: {
            query: {
                practice: "na" | "uk" | "au" | "in" | "eu";
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description All of them */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["DevicesAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    addDevice: {
        parameters: {
            query?: {
                /** @description The version that was seen, of a device that is changed or removed */
                base?: components["parameters"]["DeviceBase"];
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["DeviceModel"];
            };
        };
        responses: {
            /** @description The device in the place of one that was kept */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LibraryDevice"];
                };
            };
            /** @description The device as kept */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LibraryDevice"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    tryDevice: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["DeviceModel"];
            };
        };
        responses: {
            /** @description What the bench says */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["BenchAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    exportDevices: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The file */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    importDevices: {
        parameters: {
            query?: {
                replace?: boolean;
            };
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/octet-stream": Blob;
            };
        };
        responses: {
            /** @description How many were kept */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        kept: number;
                    };
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    deleteDevice: {
        parameters: {
            query?: {
                /** @description The version that was seen, of a device that is changed or removed */
                base?: components["parameters"]["DeviceBase"];
            };
            header?: never;
            path: {
                device: string;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Forgotten */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    trace: {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
                /** @description A plan whose id this is: the next test is what that plan needs to know */
                toward?: components["parameters"]["TowardOption"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The answer */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TraceAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    previewTest: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["Observation"];
            };
        };
        responses: {
            /** @description The test in words with its outcomes */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["NextTest"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    traceAhead: {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The forecast */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TraceForecast"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    traceFollowed: {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description How many tests */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": {
                        tests: number;
                    };
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    traceTree: {
        parameters: {
            query?: {
                /** @description Dead tests first, or fewest walks */
                prefer?: components["parameters"]["Prefer"];
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The tree */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["TestNode"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    recordTraced: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["BaseRequest"];
            };
        };
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    handover: {
        parameters: {
            query?: {
                currency?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description What the record says */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HandoverAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    compareHouse: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The comparison */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Comparison"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    hideCircuit: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The survey of the hidden house */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    askHouse: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["Observation"];
            };
        };
        responses: {
            /** @description The reading */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HouseReading"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    choose: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["ChoiceRequest"];
            };
        };
        responses: {
            /** @description The circuit */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Circuit"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    picture: {
        parameters: {
            query: {
                of: components["schemas"]["Version"];
                /** @description Draw this box alone, from the front */
                box?: string;
                /** @description Flag the ends that the plan joins differently */
                compare?: boolean;
                view?: components["schemas"]["View"];
                /** @description Draw this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The drawing */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Picture"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    usual: {
        parameters: {
            query?: {
                /** @description The open cable behind which the box stands; none where nobody can name it */
                cable?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The boxes */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UsualBox"][];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    diagram: {
        parameters: {
            query: {
                of: components["schemas"]["Version"];
                /** @description Draw this box alone, from the front */
                box?: string;
                /** @description Flag the ends that the plan joins differently */
                compare?: boolean;
                view?: components["schemas"]["View"];
                /** @description Draw this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The drawing */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "image/svg+xml": string;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    procedure: {
        parameters: {
            query?: {
                /** @description The way back after so many steps were done, in place of the steps */
                back?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The steps */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Procedure"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    work: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description How it stands */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Work"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    beginWork: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["WorkBegin"];
            };
        };
        responses: {
            /** @description How it stands */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Work"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    addToLog: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["LogRequest"];
            };
        };
        responses: {
            /** @description How it stands */
            201: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Work"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    stepPicture: {
        parameters: {
            query?: {
                /** @description The last entry of the log that the asker knows; the work is taken as it stood then. Without it, as it stands now */
                last?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                step: number;
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description Both */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["StepPictures"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    proof: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The proof */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Proof"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    diagnosis: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The mistakes */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Diagnosis"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    mistakePicture: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    mistake: components["schemas"]["Mistake"];
                    box: string;
                };
            };
        };
        responses: {
            /** @description Both */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["WrongAndRight"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    batteries: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The dates */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "text/calendar": string;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    readings: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The list */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "text/csv": string;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    record: {
        parameters: {
            query?: {
                size?: "a4" | "letter";
                currency?: string;
                /** @description All that is known as well, for inspector, electrician and office */
                annex?: boolean;
            };
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The document */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    together: {
        parameters: {
            query?: {
                /** @description What the first plan has least of */
                by?: "price" | "time" | "families";
                /** @description What an hour of work costs */
                rate?: number;
            };
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The plans */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Together"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    customer: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The customer */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptCustomer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    putCustomer: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                job: components["parameters"]["JobID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["KeptCustomer"];
            };
        };
        responses: {
            /** @description The customer */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptCustomer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    firm: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The firm */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptFirm"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    putFirm: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["KeptFirm"];
            };
        };
        responses: {
            /** @description The firm */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["KeptFirm"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    links: {
        parameters: {
            query?: {
                /** @description Of this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The ways */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["LinkSet"][];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    keepLinks: {
        parameters: {
            query?: {
                /** @description Of this option of the plan in place of the chosen one */
                option?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["LinksRequest"];
            };
        };
        responses: {
            /** @description Kept */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    rehearse: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["RehearsalOf"];
            };
        };
        responses: {
            /** @description The rehearsal */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Rehearsal"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    rehearseWithin: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": {
                    what: components["schemas"]["RehearsalOf"];
                    delays: components["schemas"]["Delays"];
                };
            };
        };
        responses: {
            /** @description What holds */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Timed"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    rules: {
        parameters: {
            query: {
                of: components["schemas"]["Version"];
                /** @description Of this option of the plan in place of the chosen one */
                option?: string;
                /** @description A way to make its links in place of the preferred one */
                set?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                form: "json" | "csv" | "yaml";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The rules */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "application/octet-stream": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    rehearseMove: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["RehearsalMove"];
            };
        };
        responses: {
            /** @description The moment after it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["RehearsalShown"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    use: {
        parameters: {
            query?: {
                /** @description The year that is worked out; this one where none is named */
                year?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The use */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UseAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    putUse: {
        parameters: {
            query?: {
                /** @description The year that is worked out; this one where none is named */
                year?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["UseRequest"];
            };
        };
        responses: {
            /** @description The use as kept */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UseAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    useCalendar: {
        parameters: {
            query?: {
                year?: number;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The calendar */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "text/calendar": string;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    upkeep: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["UpkeepRequest"];
            };
        };
        responses: {
            /** @description The options */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["UpkeepAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    ramp: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["Held"];
            };
        };
        responses: {
            /** @description What comes of it */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["Ramped"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    hub: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The hub */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HubAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    startHub: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["HubRequest"];
            };
        };
        responses: {
            /** @description The hub */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HubAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    stopHub: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description None runs */
            204: {
                headers: {
                    [name: string]: unknown;
                };
                content?: never;
            };
            default: components["responses"]["Problem"];
        };
    };
    pressAtHub: {
        parameters: {
            query?: never;
            header?: never;
            path?: never;
            cookie?: never;
        };
        requestBody: {
            content: {
                "application/json": components["schemas"]["HubPress"];
            };
        };
        responses: {
            /** @description The hub */
            200: {
                headers: {
                    [name: string]: unknown;
                };
                content: {
                    "application/json": components["schemas"]["HubAnswer"];
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    paper: {
        parameters: {
            query?: {
                /** @description The practice's own paper where nothing is said */
                size?: "a4" | "letter";
                /** @description What prices are in, as ISO 4217 has it; plain numbers where nothing is said */
                currency?: string;
            };
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
                sheet: "order" | "annex" | "drawings" | "planned" | "labels" | "found-labels" | "pocket";
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The document */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "application/pdf": Blob;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
    materials: {
        parameters: {
            query?: never;
            header?: never;
            path: {
                circuit: components["parameters"]["CircuitID"];
            };
            cookie?: never;
        };
        requestBody?: never;
        responses: {
            /** @description The list */
            200: {
                headers: {
                    "Content-Disposition": string;
                    [name: string]: unknown;
                };
                content: {
                    "text/csv": string;
                };
            };
            default: components["responses"]["Problem"];
        };
    };
}
