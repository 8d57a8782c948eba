package dev.mockbell.peers;

import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebResult;
import jakarta.jws.WebService;
import jakarta.jws.soap.SOAPBinding;
import jakarta.xml.ws.Holder;

/** rpc/literal, with several parts and one that goes both ways. */
@WebService(targetNamespace = "urn:northfell:peers")
@SOAPBinding(style = SOAPBinding.Style.RPC)
public class Rpc {
    @WebMethod
    @WebResult(name = "feet")
    public double toFeet(@WebParam(name = "metres") double metres) {
        return metres / 0.3048;
    }

    @WebMethod
    @WebResult(name = "stay")
    public Stay rebook(
            @WebParam(name = "stay") Stay stay,
            @WebParam(name = "guest") Guest guest,
            @WebParam(name = "nights", mode = WebParam.Mode.INOUT) Holder<Integer> nights) {
        if (guest.name == null || stay.guests == null) {
            throw new IllegalArgumentException("guests are needed");
        }
        nights.value = nights.value + 1;
        return stay;
    }

    @WebMethod
    public void ping() {
        // answers with nothing
    }
}
