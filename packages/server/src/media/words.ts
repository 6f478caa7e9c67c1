/** The words of a command line, none of which holds a space: `words('-f image2 -start_number 0')`. */
export const words = (line: string): string[] => line.split(' ');
