/** What a user is told: one error with its place, and typed notes of what was assumed or lost. */
package flarvo.report;
