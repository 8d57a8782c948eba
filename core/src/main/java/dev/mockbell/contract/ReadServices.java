package dev.mockbell.contract;

import java.util.List;

/** What a reader of one WSDL version found. */
record ReadServices(List<Service> services, List<Binding> unusedBindings) {}
