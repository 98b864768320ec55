/** The list of what the program ships with: versions, licences, and known faults. */
package flarvo.tools.dependencies;
