package dev.mockbell.wire;

/** Who logs in at a proxy, in the way that it asks for. */
public record ProxyLogin(String user, String password) {
    @Override
    public String toString() {
        return "proxy login of " + user;
    }
}
