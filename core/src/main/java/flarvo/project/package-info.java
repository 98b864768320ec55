/** Projects: what a user decided about shots, as a list of edits, and the file that keeps it. */
package flarvo.project;
