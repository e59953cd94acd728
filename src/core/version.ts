/** Version of the computing core, kept with every measurement. Raise it when a figure may change; CHANGELOG says which. */
export const CORE_VERSION = '0.3.0';
