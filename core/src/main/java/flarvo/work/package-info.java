/** Long work: how it tells its progress and how it is stopped. */
package flarvo.work;
