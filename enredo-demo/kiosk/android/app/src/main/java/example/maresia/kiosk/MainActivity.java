package example.maresia.kiosk;

import com.getcapacitor.BridgeActivity;

public class MainActivity extends BridgeActivity {}
