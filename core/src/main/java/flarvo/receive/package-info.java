/** What comes in: files are recognised, read, and brought into the canonical space. */
package flarvo.receive;
