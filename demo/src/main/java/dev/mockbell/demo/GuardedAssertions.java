package dev.mockbell.demo;

import com.sun.xml.ws.policy.PolicyAssertion;
import com.sun.xml.ws.policy.spi.PolicyAssertionValidator;

/** Tells the SOAP stack that what the contracts demand by WS-SecurityPolicy is seen to: before it, by the guards of the fronts. */
public final class GuardedAssertions implements PolicyAssertionValidator {
    private static final String SECURITY = "http://docs.oasis-open.org/ws-sx/ws-securitypolicy/200702";

    @Override
    public Fitness validateClientSide(PolicyAssertion assertion) {
        return of(assertion);
    }

    @Override
    public Fitness validateServerSide(PolicyAssertion assertion) {
        return of(assertion);
    }

    private static Fitness of(PolicyAssertion assertion) {
        return SECURITY.equals(assertion.getName().getNamespaceURI()) ? Fitness.SUPPORTED : Fitness.UNKNOWN;
    }

    @Override
    public String[] declareSupportedDomains() {
        return new String[] {SECURITY};
    }
}
