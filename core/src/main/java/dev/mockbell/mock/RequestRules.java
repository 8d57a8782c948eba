package dev.mockbell.mock;

/**
 * What a mock checks of requests beside what nobody could answer. A request that breaks a rule gets the fault and the status that
 * the standards have for it.
 *
 * @param contentType whether the media type must be that of the envelope's version (SOAP 1.1 §6, SOAP 1.2 part 2 §7.1.4)
 * @param action whether the action must be the contract's (SOAP 1.1 §6.1.1, WS-I Basic Profile 1.1 R2744, R2745)
 * @param mustUnderstand whether header blocks that must be understood are refused when the contract does not name them
 * @param schema whether the payload must be valid against the contract
 * @param login who may call
 */
public record RequestRules(
        boolean contentType, boolean action, boolean mustUnderstand, boolean schema, AskedLogin login) {
    public static final RequestRules USUAL = new RequestRules(true, false, true, false, AskedLogin.NONE);

    public RequestRules checkingContentType(boolean on) {
        return new RequestRules(on, action, mustUnderstand, schema, login);
    }

    public RequestRules checkingAction(boolean on) {
        return new RequestRules(contentType, on, mustUnderstand, schema, login);
    }

    public RequestRules checkingMustUnderstand(boolean on) {
        return new RequestRules(contentType, action, on, schema, login);
    }

    public RequestRules checkingSchema(boolean on) {
        return new RequestRules(contentType, action, mustUnderstand, on, login);
    }

    public RequestRules with(AskedLogin other) {
        return new RequestRules(contentType, action, mustUnderstand, schema, other);
    }
}
