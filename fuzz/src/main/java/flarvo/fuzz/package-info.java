/**
 * Feeds every reader with mutated files. A process for each reader, watched for coverage, for
 * exceptions that are not ours, for time and for memory.
 */
package flarvo.fuzz;
