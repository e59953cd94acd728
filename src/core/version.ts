/**
 * Version of the computing core, stored with every measurement. Raise it when a figure may change; CHANGELOG lists the
 * changes.
 */
export const CORE_VERSION = '0.17.0';
