export declare function oneFile(root: string, entry: string, outfile: string): Promise<void>;
