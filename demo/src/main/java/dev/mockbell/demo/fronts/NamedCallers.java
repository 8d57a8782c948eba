package dev.mockbell.demo.fronts;

import dev.mockbell.problem.Problem;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import org.apache.wss4j.common.cache.MemoryReplayCache;
import org.apache.wss4j.common.cache.ReplayCache;
import org.apache.wss4j.common.ext.WSPasswordCallback;
import org.apache.wss4j.dom.engine.WSSConfig;
import org.apache.wss4j.dom.engine.WSSecurityEngine;
import org.apache.wss4j.dom.handler.RequestData;
import org.w3c.dom.Element;

/**
 * Wants a UsernameToken, its password as text or as a digest, with a nonce that was not seen before and a time that is not long
 * past (UsernameToken Profile 1.1.1 §3.1).
 */
final class NamedCallers implements Guards.Guard {
    private final String user;
    private final String password;
    private final boolean always;
    private final ReplayCache seen = new MemoryReplayCache();

    /** @param always whether a message without a token is refused; otherwise only one whose token is wrong */
    NamedCallers(String user, String password, boolean always) {
        this.always = always;
        this.user = user;
        this.password = password;
        WSSConfig.init();
    }

    @Override
    public Guards.Answering through(SecuredMessage message) throws Exception {
        Element security = message.security();
        if (security == null
                || security.getElementsByTagNameNS(SecuredMessage.WSSE, "UsernameToken")
                                .getLength()
                        == 0) {
            if (!always) {
                return answer -> answer;
            }
            throw Problem.input("The message has no UsernameToken", null, null);
        }
        Element token = (Element) security.getElementsByTagNameNS(SecuredMessage.WSSE, "UsernameToken")
                .item(0);
        boolean once =
                token.getElementsByTagNameNS(SecuredMessage.WSSE, "Nonce").getLength() == 1
                        && token.getElementsByTagNameNS("*", "Created").getLength() == 1;
        if (!once) {
            throw Problem.input("The UsernameToken has no nonce or no time", null, null);
        }
        RequestData data = new RequestData();
        data.setWssConfig(WSSConfig.getNewInstance());
        data.setNonceReplayCache(seen);
        data.setCallbackHandler(passwords());
        new WSSecurityEngine().processSecurityHeader(security, data);
        return answer -> answer;
    }

    private CallbackHandler passwords() {
        return asked -> {
            for (Callback callback : asked) {
                if (callback instanceof WSPasswordCallback asks && user.equals(asks.getIdentifier())) {
                    asks.setPassword(password);
                }
            }
        };
    }
}
